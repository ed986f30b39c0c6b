"""The rules of the job: optics, scale, light, motion, matching and planning.

A library without interface, files, clock or network. Formulas (`optics`, `scale`, `light`, `motion`) take
plain floats and check nothing; records and calculations (`match`, `kit`, `handbook`) are checked once, where
they enter, and raise :class:`jungoptic.core.errors.InputError` naming the field, the limit and the reason.
"""

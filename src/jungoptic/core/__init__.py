"""The rules of the job: optics, scale, light, motion, matching and planning.

A library without interface, files, clock or network. Formulas (`optics`, `scale`, `light`, `motion`) take
plain numbers and check nothing; records and calculations (`match`, `kit`, `handbook`) are checked once, where
they enter, and raise :class:`jungoptic.core.errors.InputError` naming the field, the limit and the reason.

What a package or module lists in ``__all__`` is its public face, and all that the application uses; the
modules inside a package are its own. Every name says its unit (``focal_length_mm``, ``distance_m``); a source
named in a docstring is a key of :data:`jungoptic.core.sources.SOURCES`.
"""

__all__ = [
    "breakdown",
    "calculation",
    "cautions",
    "data_file",
    "days",
    "errors",
    "example",
    "handbook",
    "kit",
    "light",
    "match",
    "motion",
    "optics",
    "plan",
    "quantities",
    "scale",
    "sources",
    "stage",
    "vocabulary",
    "wording",
]

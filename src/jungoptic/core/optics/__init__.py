"""Lens and frame: angle of view, the delivered pixel, focus, diffraction, close-up."""

"""Movement across the frame: the camera's move, and what it smears."""

from .blur import image_travel_px, motion_blur_px
from .move import Move, fastest_px_per_frame
from .path import Path

__all__ = ["Move", "Path", "fastest_px_per_frame", "image_travel_px", "motion_blur_px"]

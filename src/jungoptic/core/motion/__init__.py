"""Movement across the frame: the camera's move, and what it smears."""

from .blur import motion_blur_px
from .move import Move
from .path import Path

__all__ = ["Move", "Path", "motion_blur_px"]

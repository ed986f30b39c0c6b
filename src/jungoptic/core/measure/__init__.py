"""What pictures tell when they are measured: frames in, numbers and words out."""

from .codes import read_codes

__all__ = ["read_codes"]

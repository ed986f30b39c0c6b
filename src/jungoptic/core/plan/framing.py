"""Framing first: what some frame of the delivery uses, and what outside of it need not be built, lit or
cut.
"""

from __future__ import annotations

from dataclasses import dataclass

KEY_EVERY, MINUTES_PER_KEY = 4, 5.0  # of a hand matte, common practice
Box = tuple[float, float, float, float]


@dataclass(frozen=True, slots=True)
class Framing:
    """Frames of a shot. ``cut_width_px`` is what a cut-down of another shape uses of the delivered width, at
    ``cut_at_px``.
    """

    width_px: int
    height_px: int
    margin_pct: float = 0.0
    cut_width_px: float | None = None
    cut_at_px: float | None = None
    only_cut: bool = False

    @property
    def cut_box(self) -> Box | None:
        """Left, top, right and bottom of the cut-down in the delivered frame, px; None without one."""
        if self.cut_width_px is None:
            return None
        half = self.cut_width_px / 2.0
        middle = self.width_px / 2.0 if self.cut_at_px is None else self.cut_at_px
        middle = min(max(middle, half), self.width_px - half)
        return middle - half, 0.0, middle + half, float(self.height_px)

    @property
    def needed_box(self) -> Box:
        """Union of all that is delivered, with the stabiliser's margin round it, px."""
        cut = self.cut_box
        left, top, right, bottom = (
            cut if cut and self.only_cut else (0.0, 0.0, float(self.width_px), float(self.height_px))
        )
        grow_w, grow_h = ((side * self.margin_pct / 100.0) / 2.0 for side in (right - left, bottom - top))
        return left - grow_w, top - grow_h, right + grow_w, bottom + grow_h

    @property
    def needed_px(self) -> tuple[float, float]:
        """Width and height that a plate about the middle of the frame must cover to hold everything that is
        needed.
        """
        left, top, right, bottom = self.needed_box
        middle_x, middle_y = self.width_px / 2.0, self.height_px / 2.0
        return 2.0 * max(middle_x - left, right - middle_x), 2.0 * max(middle_y - top, bottom - middle_y)


def vertical_cut_px(width_px: int, height_px: int, shape: float = 9.0 / 16.0) -> float:
    """Width that a cut-down of another shape uses at the delivery's full height.

    Parameters
    ----------
    width_px, height_px : int
        The delivered frame, px.
    shape : float, default 9/16
        Width over height of the cut-down.

    Returns
    -------
    float
        Delivered px.

    References
    ----------
    framing

    Examples
    --------
    >>> vertical_cut_px(1920, 1080)
    607.5
    """
    return min(float(width_px), height_px * shape)


def share_inside(box: Box, frame: Box) -> float:
    """Share of a box in the picture that lies inside a frame: what is left to build, light or cut.

    Parameters
    ----------
    box, frame : tuple of float
        Left, top, right and bottom, px.

    Returns
    -------
    float
        0 to 1.

    References
    ----------
    framing

    Examples
    --------
    >>> share_inside((0, 0, 100, 100), (50, 0, 200, 200))
    0.5
    """
    area = (box[2] - box[0]) * (box[3] - box[1])
    if area <= 0:
        return 0.0
    across = max(0.0, min(box[2], frame[2]) - max(box[0], frame[0]))
    up = max(0.0, min(box[3], frame[3]) - max(box[1], frame[1]))
    return across * up / area

"""A QR code as a drawing (ISO/IEC 18004, by segno)."""

from __future__ import annotations

from io import StringIO

import numpy as np
import numpy.typing as npt
import segno

LONGEST = 600  # characters: more is too fine for a telephone held at arm's length


def terminal(text: str) -> str:
    """For a terminal, half a line a module."""
    out = StringIO()
    segno.make(text, error="m", micro=False).terminal(out, compact=True, border=2)
    return out.getvalue()


def svg(text: str) -> str:
    """Dark on white in both themes, with the quiet zone of four modules that a reader wants."""
    code = segno.make(text, error="m", micro=False)
    return str(code.svg_inline(scale=4, border=4, dark="#000", light="#fff", omitsize=True))


def modules(text: str) -> npt.NDArray[np.bool_]:
    """The code of a slate (version 3), module by module: True is dark."""
    return np.array([[bool(dark) for dark in row] for row in segno.make(text, version=3, error="m").matrix])

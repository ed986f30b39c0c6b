"""How a piece of a set comes to be, and on how many frames something is animated."""

from __future__ import annotations

from typing import Literal

Made = Literal["built", "painted", "extended"]
Hold = Literal["ones", "twos", "threes", "fours"]

"""The sheet that a layer is cut from."""

from __future__ import annotations

from ..light.placed import Backing
from ..vocabulary import PASSES
from .records import SetUp
from .stack import Member

DARK_LX = 1e-3  # darker than this is unlit
UNLIT_STOPS = 20.0


def sheet_of(member: Member) -> tuple[SetUp, Backing] | None:
    """The set-up and its sheet, where the layer is cut from it; a pass is laid on and cut from nothing."""
    if member.layer.kind in PASSES:
        return None
    return (
        (member.setup, member.setup.backing)
        if member.setup is not None and member.setup.backing is not None
        else None
    )

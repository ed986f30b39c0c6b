"""What every CSV of ours shares (RFC 4180)."""

from __future__ import annotations

_RISKY = ("=", "+", "-", "@", "\t", "\r")


def harmless(text: str) -> str:
    """Text that a spreadsheet would take for a formula, kept as text by a leading quote mark."""
    return f"'{text}" if text.startswith(_RISKY) else text


def delimiter_of(text: str) -> str:
    """What stands between the cells of a table: whatever its first line has most of."""
    head = text.splitlines()[0] if text.splitlines() else ""
    return max((",", ";", "\t"), key=head.count)

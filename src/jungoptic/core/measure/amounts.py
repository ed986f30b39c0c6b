"""What every measurement is told as: an amount, how far it may be off, and what was taken for granted."""

from __future__ import annotations

from dataclasses import dataclass

TWICE = 2.0
"""Errors are told as two deviations: 95 of 100 lie within."""


@dataclass(frozen=True, slots=True)
class Amount:
    """One measured amount. ``off`` is two deviations, in the same unit."""

    name: str
    title: str
    value: float
    off: float
    unit: str = ""

"""Small clips as a camera writes them, with a slate before the lens."""

from __future__ import annotations

from collections.abc import Iterator
from datetime import datetime
from pathlib import Path
from typing import Any

import numpy as np

from jungoptic.app.base.qr import modules
from jungoptic.app.devices.simulated_card import Written, write_clip
from jungoptic.core.plan import SLATE

WIDTH, HEIGHT, RATE = 320, 240, 24.0


def slate_text(code: str, shot: str = "TM010", layer: int = 1, take: int = 1) -> str:
    return SLATE.format(code=code, shot=shot, layer=layer, take=take)


def pictures(text: str, seconds: float, seed: int) -> Iterator[np.ndarray[Any, Any]]:
    """A slate for its first second, where there is one; else grain on grey."""
    dice = np.random.default_rng(seed)
    plain = np.repeat(dice.integers(90, 130, (HEIGHT, WIDTH, 1), np.uint8), 3, 2)
    slate = np.full_like(plain, 200)
    if text:
        code = np.where(np.kron(modules(text), np.ones((5, 5))), 20, 230).astype(np.uint8)
        top, left = (HEIGHT - code.shape[0]) // 2, (WIDTH - code.shape[1]) // 2
        slate[top : top + code.shape[0], left : left + code.shape[1]] = code[:, :, None]
    for frame in range(round(seconds * RATE)):
        yield slate if text and frame < RATE else plain


def clip(
    path: Path, began: datetime, text: str = "", seconds: float = 2.0, seed: int = 0, **settings: float
) -> Path:
    path.parent.mkdir(parents=True, exist_ok=True)
    write_clip(path, pictures(text, seconds, seed), Written(RATE, began, settings))
    return path

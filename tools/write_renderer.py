"""Writes docs/renderer.md: what the simulated camera's pictures show beside what the comparison predicts."""

from pathlib import Path

from jungoptic.core.match import ITEMS
from jungoptic.core.stage import proved

PAGE = Path(__file__).resolve().parents[1] / "docs" / "renderer.md"
HEAD = """# The simulated camera beside the comparison

Charts at 1:12 are filmed by the simulated camera with one thing wrong at a time, and the picture is measured:
places by the middle of what is seen, discs and smears by their second moments, noise by its deviation, a
recording's own pixels by a slanted edge, the key by three faces of a block. The comparison predicts each from
its formulas. They agree within 2 %, or 0.1 px, 0.1°, 0.01 stop, 1 mired or one code.
Written by `./run docs`.

| item | what is wrong | predicted | measured | unit |
|---|---|---|---|---|
"""
TAIL = """
Not in the table, because the comparison has no number that a picture shows by itself: shadows of lamps on
the sheet are drawn where the comparison's own rays put them; every face of a layer has the shadows of its
other faces, and of what is filmed in the same exposure, by the key or by each lamp where it stands (tested
against lines and planes by hand); a layer that is filmed mirrored is flopped; airlight is that of the
drawings.
"""


def page() -> str:
    """The whole page."""
    rows = [
        f"| {ITEMS[row.item].label} | {row.wrong} | {row.predicted:.2f} | {row.measured:.2f} | {row.unit} |"
        for row in proved()
    ]
    return HEAD + "\n".join(rows) + "\n" + TAIL


if __name__ == "__main__":
    PAGE.write_text(page(), "utf-8")

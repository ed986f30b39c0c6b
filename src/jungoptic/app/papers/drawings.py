"""The two pictures of the card as SVG, black on white: through the lens, and from the side."""

from __future__ import annotations

from base64 import b64encode
from html import escape

from jungoptic.app.shots.pictures import lens_view
from jungoptic.app.takes.table import BenchTable, Judged
from jungoptic.core.stage import Points, horizon_px, jpeg, outlines, standing
from jungoptic.core.vocabulary import KINDS, Hatch

PRINTED_PX = 1280

_GROUNDS = {"open": "#fff", "middle": "#ccc", "dark": "#444"}


def _hatch(kind: str, hatch: Hatch) -> str:
    """A kind's hatch in black on white, as an SVG pattern or, where it is a tone, a gradient."""
    if hatch.fade:
        ends = (("0", "0.1"), ("1", "0.7")) if hatch.fade == "down" else (("0", "0.7"), ("1", "0.1"))
        stops = "".join(f'<stop offset="{at}" stop-opacity="{opacity}"/>' for at, opacity in ends)
        return f'<linearGradient id="hatch-{kind}" x1="0" y1="0" x2="0" y2="1">{stops}</linearGradient>'
    lines = f'<path d="{hatch.lines}" stroke="#000" stroke-width="0.9" fill="none"/>' if hatch.lines else ""
    dot = '<circle cx="{}" cy="{}" r="{}"/>'.format(*hatch.dot) if hatch.dot else ""
    return (
        f'<pattern id="hatch-{kind}" width="6" height="6" patternUnits="userSpaceOnUse"><rect width="6"'
        f' height="6" fill="{_GROUNDS[hatch.ground]}"/>{lines}{dot}</pattern>'
    )


HATCH_DEFS = "".join(_hatch(kind, words.hatch) for kind, words in KINDS.items())


def _path(points: Points) -> str:
    return "M" + " L".join(f"{x:.1f} {y:.1f}" for x, y in points) + " Z" if points else ""


def lens_svg(table: BenchTable) -> str:
    """The view through the lens as the simulated stage sees it; dashed where the hero wants what shows
    elsewhere.
    """
    width, height = table.delivery.width_px, table.delivery.height_px
    assert table.hero is not None
    picture = b64encode(jpeg(lens_view(table, table.stack, PRINTED_PX))).decode()
    wanted = "".join(
        f'<path d="{_path(part.wanted)}" fill="none" stroke="#fff" stroke-width="3" stroke-dasharray="12 9"/>'
        for judged in table.judged
        if judged.count("shows")
        for part in outlines(judged.match)
        if part.wanted != part.points
    )
    y = horizon_px(table.hero, table.delivery)
    return (
        f'<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 {width} {height}"><defs><clipPath'
        f' id="frame"><rect width="{width}" height="{height}"/></clipPath></defs><g'
        f' clip-path="url(#frame)"><image href="data:image/jpeg;base64,{picture}" width="{width}"'
        f' height="{height}"/>{wanted}<path d="M0 {y:.1f} H{width}" stroke="#fff" stroke-width="3"'
        f' stroke-dasharray="4 10"/></g><rect x="1" y="1" width="{width - 2}" height="{height - 2}"'
        ' fill="none" stroke="#000" stroke-width="4"/></svg>'
    )


def side_svg(table: BenchTable, judged: Judged) -> str:
    """The set-up from the side, to scale: cone of view, layer, height that the lens wants, depth that
    holds.
    """
    stands = standing(judged.match, table.focus_band_m(judged))
    words = table.words
    reach = max(stands.far_m * 1.15, stands.focus_m * 1.1)
    scale = 900.0 / (reach * 1.12)
    left, floor, tall = reach * 0.1 * scale, 250.0, 290.0
    deepest = max([stands.lens_height_m, *(y for solid in stands.solids for _, y in solid.side)], default=1.0)
    scale_y = min(scale, 220.0 / max(deepest * 1.15, 1e-6))
    scale = min(scale, scale_y) if scale_y > scale * 0.4 else scale

    def at(z: float, y: float) -> tuple[float, float]:
        return left + z * scale, floor - y * scale

    from math import radians, tan

    lens_x, lens_y = at(0, stands.lens_height_m)
    edges = [
        at(
            reach,
            stands.lens_height_m + reach * tan(radians(stands.tilt_deg + side * stands.view_up_deg / 2)),
        )
        for side in (1, -1)
    ]
    far = stands.band_far_m if stands.band_far_m is not None else reach
    band_x, band_far_x = at(stands.band_near_m, 0)[0], at(min(far, reach), 0)[0]
    hatch = f"url(#hatch-{judged.layer.kind})"
    solids = "".join(
        f'<path d="{_path([list(at(z, y)) for z, y in solid.side])}" fill="{hatch}" stroke="#000"'
        ' stroke-width="1.5"/>'
        for solid in stands.solids
    )
    wish_y = at(0, stands.wanted_height_m)[1]
    ground_y = at(0, stands.ground_height_m)[1]
    ticks = "".join(
        f'<path d="M{at(m, 0)[0]:.1f} {floor} v6" stroke="#000"/><text x="{at(m, 0)[0]:.1f}" y="{floor + 20}"'
        f' font-size="12" text-anchor="middle">{escape(words.length(m)) if m else "0"}</text>'
        for m in _ticks(reach)
    )
    return (
        '<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 1000'
        f' {tall:.0f}"><defs>{HATCH_DEFS}</defs><rect x="{band_x:.1f}" y="10"'
        f' width="{max(band_far_x - band_x, 0):.1f}" height="{floor - 10:.1f}" fill="#e4e4e4"/><path'
        f' d="M{lens_x:.1f} {lens_y:.1f} L{edges[0][0]:.1f} {edges[0][1]:.1f} M{lens_x:.1f} {lens_y:.1f}'
        f' L{edges[1][0]:.1f} {edges[1][1]:.1f}" stroke="#000" fill="none"/>{solids}<path'
        f' d="M{at(stands.distance_m, 0)[0]:.1f} {ground_y:.1f} H{at(stands.far_m, 0)[0]:.1f}" stroke="#000"'
        f' stroke-width="2"/><path d="M0 {wish_y:.1f} H1000" stroke="#000" stroke-dasharray="6 5"/><text'
        f' x="{lens_x + 30:.1f}" y="{wish_y - 5:.1f}" font-size="13">lens wants'
        f' {escape(words.length(stands.wanted_height_m))}</text><rect x="{lens_x - 34:.1f}"'
        f' y="{lens_y - 10:.1f}" width="34" height="20" fill="#000"/><path d="M{lens_x - 17:.1f}'
        f" {lens_y + 10:.1f} L{lens_x - 30:.1f} {floor} M{lens_x - 17:.1f} {lens_y + 10:.1f}"
        f' L{lens_x - 4:.1f} {floor}" stroke="#000" stroke-width="2"/><path d="M0 {floor} H1000"'
        f' stroke="#000" stroke-width="1.5"/>{ticks}</svg>'
    )


def _ticks(reach: float) -> list[float]:
    step = next(
        s
        for s in (0.1, 0.25, 0.5, 1, 2, 5, 10, 25, 50, 100, 250, 500, 1000, 5000, 1e5, 1e9)
        if reach / s <= 9
    )
    return [round(step * n, 3) for n in range(int(reach / step) + 1)]

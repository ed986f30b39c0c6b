"""Build only what is seen, against a brute-force ray test; lines of the board; the cutting list."""

from __future__ import annotations

import itertools
import math

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st
from shapely import Point

from jungoptic.core.plan.reused import fewest_colours, fewest_pieces
from jungoptic.core.plan.seen import Piece, View, only_establishing, seen_parts
from jungoptic.core.plan.sheets import Sheet, lay_out, panels

VIEW = View(name="A", x_m=0, z_m=-4, height_m=1.6, f_px=1500, width_px=1920, height_px=1080)


def rotation_to_view(view: View) -> np.ndarray:
    """Rows are right, up and forward of the camera in the set; written here anew, from its angles."""
    turn, tilt = math.radians(view.heading_deg), math.radians(view.tilt_deg)
    forward = np.array([math.sin(turn) * math.cos(tilt), math.sin(tilt), math.cos(turn) * math.cos(tilt)])
    right = np.array([math.cos(turn), 0.0, -math.sin(turn)])
    return np.array([right, np.cross(forward, right), forward])


@given(st.floats(-80, 80), st.sampled_from([(1500, 1920), (400, 1920), (9000, 1000)]))
def test_the_edge_of_the_frame_is_half_the_angle_of_view_aside(heading: float, lens: tuple[float, float]):
    """Held against the projection that the ray test has of its own, so that the cone in the plan is what the
    camera sees.
    """
    view = VIEW.but(heading_deg=heading, f_px=lens[0], width_px=lens[1])
    aside = math.radians(heading + view.half_deg)
    x, _, z = rotation_to_view(view) @ np.array([math.sin(aside), 0.0, math.cos(aside)])
    assert view.f_px * x / z == pytest.approx(view.width_px / 2)


def on_piece(piece: Piece, u: float, v: float) -> np.ndarray:
    turn = math.radians(piece.turn_deg)
    along, away = (
        np.array([math.cos(turn), 0, math.sin(turn)]),
        np.array([-math.sin(turn), 0, math.cos(turn)]),
    )
    foot = np.array([piece.x_m, piece.base_m, piece.z_m]) + (u - piece.width_m / 2) * along
    return foot + v * (away if piece.lies else np.array([0.0, 1.0, 0.0]))


def hit(start: np.ndarray, towards: np.ndarray, piece: Piece) -> float | None:
    """Share of the way from ``start`` to ``towards`` at which the straight line meets the piece; None where
    it misses.
    """
    origin = on_piece(piece, 0, 0)
    edge_u, edge_v = on_piece(piece, piece.width_m, 0) - origin, on_piece(piece, 0, piece.height_m) - origin
    normal = np.cross(edge_u, edge_v)
    ray = towards - start
    slope = normal @ ray
    if abs(slope) < 1e-12:
        return None
    share = normal @ (origin - start) / slope
    at = start + share * ray - origin
    u, v = at @ edge_u / (edge_u @ edge_u), at @ edge_v / (edge_v @ edge_v)
    return share if 0 <= u <= 1 and 0 <= v <= 1 else None


def ray_sees(views: list[View], pieces: list[Piece], which: int, point: np.ndarray) -> bool:
    for view in views:
        eye = np.array([view.x_m, view.height_m, view.z_m])
        x, y, z = rotation_to_view(view) @ (point - eye)
        if (
            z <= 1e-6
            or abs(view.f_px * x / z) > view.width_px / 2
            or abs(view.f_px * y / z) > view.height_px / 2
        ):
            continue
        blocks = (hit(eye, point, piece) for n, piece in enumerate(pieces) if n != which)
        if not any(share is not None and 1e-9 < share < 1 - 1e-9 for share in blocks):
            return True
    return False


def a_set(rng: np.random.Generator) -> tuple[list[Piece], list[View]]:
    pieces = [Piece(name="Floor", x_m=0, z_m=-1, width_m=10, height_m=9, lies=True)]
    for n in range(int(rng.integers(3, 7))):
        pieces.append(
            Piece(
                name=f"Wall {n}",
                x_m=rng.uniform(-4, 4),
                z_m=rng.uniform(1, 7),
                turn_deg=rng.uniform(-180, 180),
                width_m=rng.uniform(0.5, 5),
                height_m=rng.uniform(0.5, 4),
                base_m=rng.choice([0.0, 0.0, 0.7]),
            )
        )
    views = [
        VIEW.but(
            name=f"V{n}",
            x_m=rng.uniform(-3, 3),
            z_m=rng.uniform(-4, 0),
            height_m=rng.uniform(0.4, 2.2),
            heading_deg=rng.uniform(-40, 40),
            tilt_deg=rng.uniform(-15, 15),
            f_px=rng.uniform(900, 4000),
        )
        for n in range(int(rng.integers(1, 4)))
    ]
    return pieces, views


@pytest.mark.parametrize("seed", range(8))
def test_what_is_seen_is_what_rays_reach(seed: int):
    """Method: straight lines from the lens to random points of every piece, with every other piece in the
    way (derived: pinhole).
    """
    rng = np.random.default_rng(seed)
    pieces, views = a_set(rng)
    parts = seen_parts(pieces, views)
    wrong = near_edge = 0
    for which, part in enumerate(parts):
        for _ in range(150):
            u, v = rng.uniform(0, part.piece.width_m), rng.uniform(0, part.piece.height_m)
            if part.region.boundary.distance(Point(u, v)) < 0.01:
                near_edge += 1
                continue
            wrong += part.region.contains(Point(u, v)) != ray_sees(
                views, pieces, which, on_piece(part.piece, u, v)
            )
    tried = 150 * len(parts) - near_edge
    assert tried > 300
    assert wrong == 0, f"{wrong} of {tried} points"


@pytest.mark.parametrize("seed", range(4))
def test_another_view_never_sees_less_and_another_wall_never_shows_more(seed: int):
    rng = np.random.default_rng(100 + seed)
    pieces, views = a_set(rng)
    one, all_of_them = seen_parts(pieces, views[:1]), seen_parts(pieces, views)
    assert all(a.area_m2 <= b.area_m2 + 1e-6 for a, b in zip(one, all_of_them, strict=True))
    wall = Piece(name="Another", x_m=0, z_m=2, width_m=1.5, height_m=1.5)
    blocked = seen_parts([*pieces, wall], views)
    assert all(b.area_m2 <= a.area_m2 + 1e-6 for a, b in zip(all_of_them, blocked[:-1], strict=True))
    assert all(part.area_m2 <= part.whole_m2 + 1e-6 for part in all_of_them)


def test_a_wall_across_the_view_is_seen_as_wide_as_the_frame():
    # derived (pinhole): at 10 m a frame of 1920 px at 1500 px focal length is 12.8 m wide and 7.2 m high;
    # 3.6
    # m of it below the lens
    wall = Piece(name="Wall", z_m=6, width_m=20, height_m=3)
    part = seen_parts([wall], [VIEW])[0]
    left, low, right, high = part.box_m
    assert right - left == pytest.approx(12.8) and (low, high) == pytest.approx((0.0, 3.0))
    assert part.finest_m == pytest.approx(10 / 1500)
    assert part.made_box_m(10)[2] - part.made_box_m(10)[0] == pytest.approx(12.8 * 1.1)


def test_a_piece_stands_on_the_floor_unless_it_hangs_high():
    # looking up from near: only what is above the frame's lower edge is seen
    near = VIEW.but(z_m=3.0, tilt_deg=12)
    part = seen_parts([Piece(name="Wall", z_m=6, width_m=3, height_m=4)], [near])[0]
    assert 0 < part.box_m[1] < 1.2 and part.made_box_m()[1] == 0
    high = seen_parts([Piece(name="Wall", z_m=6, width_m=3, height_m=4)], [VIEW.but(z_m=5.0, tilt_deg=60)])[0]
    assert high.made_box_m()[1] == pytest.approx(high.box_m[1]) and high.box_m[1] > 1.2


def test_what_stands_behind_the_lens_or_behind_a_wall_is_not_built():
    front = Piece(name="Front", z_m=2, width_m=30, height_m=12, base_m=-2)
    hidden, behind = Piece(name="Hidden", z_m=4), Piece(name="Behind", z_m=-6)
    parts = seen_parts([front, hidden, behind], [VIEW])
    assert [part.by for part in parts] == [("A",), (), ()]
    assert parts[1].made_box_m() is None and math.isinf(parts[1].finest_m)


def test_wheels_and_the_one_wide_view():
    left = Piece(name="Left", x_m=-8, z_m=6, width_m=2, height_m=2, wheels=True)
    right = Piece(name="Right", x_m=8, z_m=6, width_m=2.1, height_m=2, wheels=True)
    to_left, to_right = (VIEW.but(name=name, heading_deg=turn) for name, turn in (("L", -39), ("R", 39)))
    parts = seen_parts([left, right], [to_left, to_right])
    (only,) = fewest_pieces(parts)
    assert only.names == ("Right", "Left") and only.stands == (("L", "Left"), ("R", "Right"))
    assert only.saves_m2 == pytest.approx(4.0, rel=0.01)
    both = VIEW.but(name="Wide", z_m=-30, establishing=True)
    assert fewest_pieces(seen_parts([left, right], [to_left, to_right, both])) == ()
    assert fewest_pieces(seen_parts([left, right.but(wheels=False)], [to_left, to_right])) == ()
    assert fewest_pieces(seen_parts([left, right.but(width_m=3)], [to_left, to_right])) == ()
    parts = seen_parts([left, right], [to_left, both])
    assert only_establishing(parts, [to_left, both]) == ("Right",)


def test_nine_pieces_alike_are_the_fewest_that_the_fullest_view_wants():
    """Nine of a kind, at most three of them in any one frame: three are built, each stands for three."""
    flats = [
        Piece(name=f"Flat {n}", x_m=20 * (n // 3) + 2.1 * (n % 3), z_m=6, width_m=2, wheels=True)
        for n in range(9)
    ]
    views = [VIEW.but(name=f"View {n}", x_m=20 * n + 2.1, z_m=0, f_px=1500) for n in range(3)]
    parts = seen_parts(flats, views)
    assert all(part.by == (f"View {place // 3}",) for place, part in enumerate(parts))
    reused = fewest_pieces(parts)
    assert len(reused) == 3 and all(len(one.names) == 3 for one in reused)
    for one in reused:  # one place for each view
        assert [view for view, _ in one.stands] == ["View 0", "View 1", "View 2"]
    assert sorted(name for one in reused for name in one.names) == sorted(flat.name for flat in flats)


@settings(max_examples=60)
@given(st.integers(1, 7), st.integers(0, 2**21 - 1))
def test_no_colouring_takes_fewer(count: int, bits: int):
    """Brute force over all colourings of small graphs."""
    pairs = [(a, b) for a in range(count) for b in range(a)]
    edges = {pair for place, pair in enumerate(pairs) if bits >> place & 1}
    conflicts = [frozenset(b for b in range(count) if {(a, b), (b, a)} & edges) for a in range(count)]
    shades = fewest_colours(conflicts)
    assert all(shades[a] != shades[b] for a, b in edges)
    least = next(
        most
        for most in range(1, count + 1)
        if any(
            all(tried[a] != tried[b] for a, b in edges)
            for tried in itertools.product(range(most), repeat=count)
        )
    )
    assert len(set(shades)) == least


# --- sheets


def test_a_wall_at_its_scale_in_both_units():
    # by hand: 12 × 4.2 m at 1:12 is 1000 × 350 mm = 39.37 × 13.78 in (1 in = 25.4 mm, ISO 31-1, from memory)
    cut = lay_out(panels("Wall", 12, 4.2, 12, Sheet()), Sheet()).cuts[0]
    assert (cut.width_mm, cut.height_mm) == pytest.approx((1000, 350))
    assert cut.inches == pytest.approx((39.37, 13.78), abs=0.005)


def test_what_is_larger_than_a_sheet_is_made_of_equal_panels():
    # by hand: 6.1 × 2.8 m from 1.22 × 2.44 m: standing 5 × 2 panels of 1.22 × 1.4, lying 3 × 3 of 2.03 ×
    # 0.93: the second is fewer
    found = panels("Back wall", 6.1, 2.8, 1, Sheet())
    assert len(found) == 9 and found[0] == ("Back wall 1/9", pytest.approx(6100 / 3), pytest.approx(2800 / 3))


@settings(max_examples=60)
@given(
    st.lists(st.tuples(st.floats(20, 1220), st.floats(20, 2440)), min_size=1, max_size=30), st.floats(0, 6)
)
def test_cuts_lie_on_their_sheet_and_never_on_each_other(sizes, kerf):
    sheet = Sheet(kerf_mm=kerf)
    wanted = [(f"{n}", width, height) for n, (width, height) in enumerate(sizes)]
    found = lay_out(wanted, sheet)
    assert sorted(cut.name for cut in found.cuts) == sorted(name for name, _, _ in wanted)
    rows = []
    for cut in found.cuts:
        width, height = (cut.height_mm, cut.width_mm) if cut.turned else (cut.width_mm, cut.height_mm)
        assert cut.x_mm >= 0 and cut.x_mm + width <= sheet.width_mm + 1e-6
        assert cut.y_mm >= 0 and cut.y_mm + height <= sheet.height_mm + 1e-6
        for other, x, y, w, h in rows:
            if other == cut.sheet:
                apart = (
                    cut.x_mm >= x + w + kerf - 1e-6
                    or x >= cut.x_mm + width + kerf - 1e-6
                    or cut.y_mm >= y + h + kerf - 1e-6
                    or y >= cut.y_mm + height + kerf - 1e-6
                )
                assert apart, (cut, other)
        rows.append((cut.sheet, cut.x_mm, cut.y_mm, width, height))
    area = sum(w * h for _, w, h in wanted)
    assert found.sheets >= math.ceil(area / (sheet.width_mm * sheet.height_mm) - 1e-9)
    assert 0 < found.used <= 1 + 1e-9 and found.price == found.sheets * sheet.price

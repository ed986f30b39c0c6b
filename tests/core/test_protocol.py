"""The steps of a take: in which order they are called out, and how long each lasts."""

from dataclasses import replace

import pytest

from jungoptic.core.example import MODEL, STACK
from jungoptic.core.match import stopped_early
from jungoptic.core.plan import CLEAN_PLATE_S, protocol


def steps_of(kind: str, combine: str = "over", setup=MODEL, length_frames: int = 96) -> dict[str, float]:
    member = STACK.members[1]
    layer = member.layer.but(kind=kind, combine=combine)
    members = (STACK.members[0], replace(member, layer=layer, setup=setup))
    delivery = STACK.delivery.but(length_frames=length_frames)
    return {
        each.key: each.seconds for each in protocol(replace(STACK, members=members, delivery=delivery), 1)
    }


def test_a_shot_is_rolled_for_its_length_at_the_rate_that_it_is_filmed_with():
    steps = steps_of("model", setup=MODEL.but(capture_fps=48))
    assert steps["action"] == 2.0 and steps["roll"] == 0  # 96 frames at 48 a second; waits for a touch
    assert list(steps)[:2] == ["roll", "slate"] and list(steps)[-2:] == ["cut", "ask_references"]
    assert steps_of("model", setup=MODEL.but(capture_fps=12))["action"] == 8.0


def test_references_come_first_and_nobody_is_asked_for_them_again():
    steps = list(steps_of("live_element", setup=MODEL.but(references=("ball", "tape"))))
    assert steps.index("ball") < steps.index("action") and "ask_references" not in steps


def test_a_clean_plate_is_rolled_before_anybody_moves_the_camera():
    steps = steps_of("live_element", "difference")
    assert steps["plate"] == CLEAN_PLATE_S and next(iter(steps)) == "lock"
    assert list(steps).index("plate") < list(steps).index("places") < list(steps).index("pose")
    assert "plate" not in steps_of("live_element", "key")
    own = steps_of("clean_plate")
    assert own["plate"] == CLEAN_PLATE_S and "action" not in own


@pytest.mark.parametrize(("kind", "key"), [("light_pass", "flash3"), ("black_element", "throw3")])
def test_what_happens_once_is_asked_for_three_times(kind, key):
    assert key in steps_of(kind)


def test_what_is_not_filmed_in_one_go_has_no_steps():
    assert steps_of("frame_by_frame") == {} and steps_of("painted", setup=None) == {}


def test_a_clip_that_is_shorter_than_its_steps_is_said():
    assert stopped_early(40.0, 37.5, 24.0, 24.0) is None
    told = stopped_early(40.0, 24.0, 24.0, 48.0)
    assert told and (told.before, told.after) == ("40 s by its steps", "12 s: stopped early, or begun late")

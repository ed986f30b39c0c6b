"""Which file is which take: none wrong, and whatever is doubtful is said."""

import random
import statistics

import pytest

from jungoptic.core.recordings import Clip, LoggedTake, camera_clock, place_clips, takes_left

BEHIND_S = 37 * 60.0
DAY_S = 1_824_000_000.0


def a_day(seed: int, files: int = 60, without_code: int = 5, doubles: int = 3, from_end: bool = True):
    """Files of a day with whose they really are, and the takes: logged within 25 s of the cut, the camera's
    clock 37 minutes behind.
    """
    dice = random.Random(seed)
    takes, clips, whose = [], [], []
    now = DAY_S
    count = files - doubles
    silent = set(dice.sample(range(count), without_code))
    twice = set(dice.sample([n for n in range(count) if n not in silent], doubles))
    for n in range(count):
        length = dice.uniform(6, 50)
        code = f"{n:08d}"
        for _ in range(2 if n in twice else 1):
            began = now - BEHIND_S
            now += length
            clips.append(
                Clip(
                    f"C{len(clips):04d}",
                    () if n in silent else (code,),
                    began,
                    length,
                    3840,
                    24.0,
                    f"ends {len(clips)}",
                )
            )
            whose.append(n)
            now += dice.uniform(10, 30)
        logged = now if from_end else began + BEHIND_S
        takes.append(LoggedTake(n, code, logged + dice.uniform(-5, 5), 2.0, 3840, 24.0))
        now += dice.uniform(60, 600)
    return clips, takes, whose, silent, twice


@pytest.mark.parametrize("seed", range(40))
def test_sixty_files_with_a_clock_37_minutes_off(seed):
    clips, takes, whose, silent, twice = a_day(seed, from_end=seed % 2 == 0)
    placed, clock = place_clips(clips, takes)
    assert clock and abs(clock.behind_s - BEHIND_S) < 30
    wrong = [
        (clip.name, each)
        for clip, each, real in zip(clips, placed, whose, strict=True)
        if each.take not in (None, real)
    ]
    assert not wrong
    sure = {real for each, real in zip(placed, whose, strict=True) if each.sure == "matched"}
    assert sure == set(range(57)) - silent - twice  # and nothing doubtful is called sure
    doubtful = [each for each in placed if each.sure != "matched"]
    assert len(doubtful) == 5 + 2 * 3 and all(each.why for each in doubtful)
    likely = [each for each in doubtful if each.by == "time" and each.sure == "likely"]
    assert len(likely) == 5


def test_a_clock_is_put_right_by_the_median_and_one_wrong_file_does_not_move_it():
    pairs = [(Clip(str(n), began_s=600.0 * n), LoggedTake(n, logged_s=600.0 * n + 100 + n)) for n in range(9)]
    clock = camera_clock([*pairs, (Clip("far", began_s=0.0), LoggedTake(99, logged_s=86_400.0))])
    off = [100 + n for n in range(9)] + [86_400.0]
    assert clock and clock.behind_s == statistics.median(off)
    assert camera_clock([(Clip("none"), LoggedTake(1))]) is None


def test_without_a_slate_a_second_file_of_a_take_is_not_given_to_the_next():
    known = [Clip(f"K{n}", (f"{n:08d}",), DAY_S + 1000 * n, 20.0, 3840, 24.0) for n in range(3)]
    takes = [LoggedTake(n, f"{n:08d}", DAY_S + 1000 * n + 25, 0, 3840, 24.0) for n in range(4)]
    again = Clip("again", (), DAY_S + 1000 + 12, 20.0, 3840, 24.0)
    (*_, placed), _clock = place_clips([*known, again], takes)
    assert (placed.take, placed.sure, placed.others) == (None, "unknown", (1,))
    assert "has a file already" in placed.why


def test_two_takes_that_are_as_near_are_not_chosen_between():
    known = [Clip(f"K{n}", (f"{n:08d}",), DAY_S + 1000 * n, 60.0) for n in range(4)]
    takes = [LoggedTake(n, f"{n:08d}", DAY_S + 1000 * n, 0) for n in range(4)]
    takes += [LoggedTake(8, "", DAY_S + 5000), LoggedTake(9, "", DAY_S + 5050)]
    between = Clip("between", (), DAY_S + 5024, 60.0)
    (*_, placed), _clock = place_clips([*known, between], takes)
    assert placed.sure == "unknown" and set(placed.others) == {8, 9}


def test_a_slate_that_was_left_standing_is_noticed_by_its_time():
    known = [Clip(f"K{n}", (f"{n:08d}",), DAY_S + 1000 * n, 20.0) for n in range(4)]
    takes = [LoggedTake(n, f"{n:08d}", DAY_S + 1000 * n + 20) for n in range(4)]
    takes.append(LoggedTake(9, "", DAY_S + 4020))
    stale = Clip("stale", ("00000003",), DAY_S + 4000, 20.0)
    placed, _ = place_clips([*known, stale], takes)
    assert placed[4].sure == "unknown" and placed[4].others == (3, 9)
    assert placed[3].sure == "likely" and placed[3].take == 3


def test_other_doubts_are_said():
    takes = [LoggedTake(1, "AAAAAAAA"), LoggedTake(2, "BBBBBBBB")]
    copied = [Clip("a", ("AAAAAAAA",), ends="x"), Clip("b", ("AAAAAAAA",), ends="x")]
    placed, _ = place_clips(copied, takes)
    assert [each.sure for each in placed] == ["likely"] * 2 and "copy" in placed[0].why
    (through,), _ = place_clips([Clip("a", ("AAAAAAAA", "BBBBBBBB"))], takes)
    assert (through.take, through.sure, through.others) == (1, "likely", (2,))
    (strange,), _ = place_clips([Clip("a", ("CCCCCCCC",))], takes)
    assert strange.take is None and "Nobody has logged" in strange.why
    (plain,), _ = place_clips([Clip("a")], takes)
    assert plain.sure == "unknown"


def test_by_hand_goes_before_its_slate_and_puts_the_clock_right():
    takes = [LoggedTake(1, "AAAAAAAA", DAY_S), LoggedTake(2, "", DAY_S + 100)]
    clips = [Clip("a", ("AAAAAAAA",), DAY_S - 50 + 100, 10.0), Clip("b", (), DAY_S - 50, 10.0)]
    placed, clock = place_clips(clips, takes, {0: 2})
    assert (placed[0].take, placed[0].by) == (2, "hand")
    assert clock and clock.files == 1 and placed[1].take == 1 and placed[1].by == "time"


def test_when_one_of_two_is_filed_the_other_is_not_sure_by_that():
    takes = [LoggedTake(1, "AAAAAAAA")]
    twice = [Clip("a", ("AAAAAAAA",)), Clip("b", ("AAAAAAAA",))]
    (filed, other), _ = place_clips(twice, takes, {0: 1})
    assert (filed.by, other.sure, other.take) == (
        "hand",
        "likely",
        1,
    ) and "a is of the same take" in other.why
    plain = [Clip("a"), Clip("b", ("AAAAAAAA",))]
    (_, slated), _ = place_clips(plain, takes, {0: 1})
    assert slated.sure == "likely"


def test_what_a_file_was_recorded_with_tells_only_where_one_is_left_for_one():
    takes = [
        LoggedTake(1, width_px=3840, rate_fps=24.0, settings={"iso": 400}),
        LoggedTake(2, width_px=1920, rate_fps=96.0, settings={"iso": 800}),
    ]
    (placed,), _ = place_clips([Clip("a", (), None, 3.0, 1920, 96.0, settings={"iso": 820})], takes)
    assert (placed.take, placed.sure, placed.by) == (2, "likely", "settings")
    (other,), _ = place_clips([Clip("a", (), None, 3.0, 1920, 96.0, settings={"iso": 1600})], takes)
    assert other.take is None
    both, _ = place_clips([Clip(name, (), None, 3.0, 1920, 96.0) for name in "ab"], takes)
    assert [each.sure for each in both] == ["unknown"] * 2 and both[0].others == (2,)
    (short,), _ = place_clips([Clip("a", (), None, 3.0, 1920, 96.0)], [LoggedTake(2, "", 0, 5.0, 1920, 96.0)])
    assert short.take is None


def test_how_many_takes_a_card_still_takes():
    # common practice: 64 GB at 100 Mbit/s are 85 min
    room = takes_left(64e9, [(100e6 / 8 * 60, 60.0), (0, 9.0), (5.0, 0.0)])
    assert room and (room.takes, room.take_s) == (85, 60.0)
    assert takes_left(1e9, [(1.0, 0.0)]) is None

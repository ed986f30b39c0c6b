"""Long computation beside: the same answers, the same refusals, an end for what takes for ever, and turns for
everybody.
"""

from __future__ import annotations

import copy
import os
import signal
import socket
import threading
import time
from collections.abc import Callable, Iterator
from concurrent.futures import ThreadPoolExecutor
from contextlib import ExitStack

import pytest
from hypothesis import given
from hypothesis import strategies as st

from jungoptic.app.base.desk import FILES, MEMORY_BYTES, SEARCHES, Lane, TooLongError
from jungoptic.app.base.turns import Asker, BusyError, GoneError, Turns
from jungoptic.app.people.waiting import has_hung_up
from jungoptic.app.takes.table import BenchTable, shot_with_everything
from jungoptic.core.errors import InputError
from jungoptic.core.example import DELIVERY, HERO, MILL, MODEL
from jungoptic.core.match import judge
from jungoptic.core.plan import solve
from tests.beside import begin_slowly, break_off, refuse, take_memory, who

from .conftest import Caller

ME, OTHER = Asker(1), Asker(2)
TOO_LONG = "Given up after {longest_s:g} s."


@pytest.fixture
def lane() -> Iterator[Callable[..., Lane]]:
    """Lanes of the test's own, whose processes are gone with it."""
    made: list[Lane] = []

    def begin(longest_s: float = 30.0, seats: int = 1, most: int = 8, memory_bytes: int = 0) -> Lane:
        how = {"most": most, "most_of_one": most, "usual_s": 0.1, "nice": 3, "too_long": TOO_LONG}
        made.append(Lane(seats=seats, longest_s=longest_s, memory_bytes=memory_bytes, **how))
        return made[-1]

    yield begin
    for one in made:
        for seat in range(len(one._pools)):
            one._drop(seat)


def test_a_layer_is_solved_beside_as_here(shot, mill):
    table = BenchTable(shot_with_everything(shot.pk), school="measured", units="metric")
    layer = next(one for one in table.layers if one.pk == mill.pk)
    asked = (
        table.hero,
        table.layer_record(layer),
        table.set_up_record(layer),
        table.delivery,
        table.kit(layer.set_up),
    )
    here, there = solve(*asked), SEARCHES.run(ME, solve, *asked)
    assert [(one.set_up, one.layer, one.sentences) for one in here] == [
        (one.set_up, one.layer, one.sentences) for one in there
    ]
    assert [item.values() for one in here for item in one.judged] == [
        item.values() for one in there for item in one.judged
    ]


def test_it_is_another_process_that_lets_others_go_first(lane):
    desk = lane()
    process, nice = desk.run(ME, who)
    assert process != os.getpid() and nice == os.nice(0) + 3
    assert desk.run(ME, who)[0] == process, "begun once"


def test_what_is_refused_there_is_refused_here(supervisor: Caller, mill):
    with pytest.raises(InputError) as refused:
        SEARCHES.run(ME, refuse)
    assert refused.value.problems[0].field == "locked"
    status, answer = supervisor("post", f"/layers/{mill.pk}/solve", {"locked": ["the moon"]})
    assert status == 422 and "the moon" in answer["problems"][0]["message"]


def test_a_process_that_died_is_followed_by_another(lane):
    desk = lane()
    process, _ = desk.run(ME, who)
    os.kill(process, signal.SIGKILL)
    assert desk.run(ME, who)[0] not in (process, os.getpid())


def gone_soon(process: int) -> None:
    """It is ended, not only left alone. Raises where it stays."""
    with pytest.raises(ProcessLookupError):
        for _ in range(100):
            os.kill(process, 0)
            time.sleep(0.05)


def test_what_takes_too_long_is_given_up(lane):
    desk = lane()
    process, _ = desk.run(ME, who)
    desk.longest_s, enough = 0.5, desk.longest_s  # begun: what it takes to begin a process is not the matter
    with pytest.raises(TooLongError, match=r"Given up after 0\.5 s\."):
        desk.run(ME, time.sleep, 60)
    desk.longest_s = enough
    assert desk.run(ME, who)[0] != process
    gone_soon(process)


def test_what_it_takes_to_begin_a_process_does_not_count(lane, monkeypatch):
    """A second for a process to begin, on a machine of which half is taken away; a fifth for the work."""
    monkeypatch.setattr("jungoptic.app.base.desk._begin", begin_slowly)
    desk = lane(longest_s=0.2)
    process, _ = desk.run(ME, who)
    assert desk.run(ME, who)[0] == process


def test_what_nobody_waits_for_any_more_is_stopped(lane):
    """Both what is done and what waits its turn; whoever comes after is served at once."""
    desk, left = lane(), threading.Event()
    process, _ = desk.run(ME, who)
    with ThreadPoolExecutor() as people:
        leaving = [people.submit(desk.run, Asker(n, left.is_set), time.sleep, 60) for n in (1, 2)]
        left.set()
        for one in leaving:
            with pytest.raises(GoneError):
                one.result()
    gone_soon(process)
    assert desk.run(ME, who)[0] != process


def test_a_line_that_is_closed_at_the_other_end_is_hung_up():
    here, there = socket.socketpair()
    with here:
        with there:
            assert not has_hung_up(here)
            there.send(b"the next request")
            assert not has_hung_up(here), "who asks for more still waits"
        assert has_hung_up(here)
    assert has_hung_up(here)


def test_a_file_may_take_so_much_memory_and_no_more(lane):
    desk = lane(memory_bytes=MEMORY_BYTES)
    with pytest.raises(InputError, match="more memory"):
        desk.run(ME, take_memory, 2 * MEMORY_BYTES)
    assert desk.run(ME, take_memory, MEMORY_BYTES // 2) == MEMORY_BYTES // 2
    assert desk.run(ME, who)[0] != desk.run(ME, who)[0], "what one file left behind is gone"


def test_a_file_that_breaks_its_reader_is_refused_and_not_read_again():
    with pytest.raises(InputError, match="broke its reader") as refused:
        FILES.run(ME, break_off)
    assert refused.value.problems[0].field == "file"
    assert FILES.run(ME, who)[0] != os.getpid()


class Line:
    """People who want seats, one after the other, and in which order they got one."""

    def __init__(self, turns: Turns) -> None:
        self.turns, self.served = turns, list[int]()
        self.people = ThreadPoolExecutor(32)

    def wants(self, person: int) -> None:
        waiting = len(self.turns._waiting)
        self.people.submit(self._sit, person)
        while len(self.turns._waiting) == waiting:
            time.sleep(0.001)

    def _sit(self, person: int) -> None:
        with self.turns.seat(Asker(person)):
            self.served.append(person)


@given(st.lists(st.integers(1, 4), min_size=1, max_size=12))
def test_turns_go_by_person_and_not_by_how_much_somebody_asks(wanted: list[int]):
    """Nobody is served a second time while somebody who waited since before is not."""
    line = Line(Turns(1, 32, 32, 0.01))
    with line.people, line.turns.seat(Asker(0)):
        for person in wanted:
            line.wants(person)
    rounds: list[int] = []
    left = list(wanted)
    while left:
        for person in dict.fromkeys(wanted):
            if person in left:
                rounds.append(person)
                left.remove(person)
    assert line.served == rounds


def test_whoever_wants_too_much_hears_when_to_come_again():
    turns = Turns(seats=2, most=5, most_of_one=3, usual_s=4.0)
    with ExitStack() as held, ThreadPoolExecutor() as people:
        for _ in range(2):
            held.enter_context(turns.seat(ME))
        left = threading.Event()

        def waits(person: int) -> None:
            with pytest.raises(GoneError), turns.seat(Asker(person, left.is_set)):
                raise AssertionError

        def until(count: int) -> None:
            while len(turns._waiting) < count:
                time.sleep(0.001)

        people.submit(waits, 1)
        until(1)
        with pytest.raises(BusyError, match="What you asked for before") as own, turns.seat(ME):
            pass
        assert own.value.wait_s == 6  # three of mine, four seconds each, on two seats
        for count in (2, 3):
            people.submit(waits, 2)
            until(count)
        with pytest.raises(BusyError, match="Others are being served: busy, free in about 10 s"):
            turns.seat(Asker(3)).__enter__()
        left.set()


def test_busy_is_said_with_when_to_ask_again(supervisor: Caller, mill, lane, monkeypatch: pytest.MonkeyPatch):
    monkeypatch.setattr("jungoptic.app.bench.solving.SEARCHES", lane(most=0))
    answer = supervisor.client.post(f"/api/layers/{mill.pk}/solve", "{}", content_type="application/json")
    assert (answer.status_code, answer["Retry-After"]) == (429, "1")
    assert "busy, free in about 1 s" in answer.json()["problems"][0]["message"]


def test_a_verdict_that_is_copied_has_its_values_worked_out():
    items = judge(HERO, MILL, MODEL, DELIVERY)
    for one in items:
        same = copy.copy(one)
        assert (same.item, same.sentence, same.values()) == (one.item, one.sentence, one.values())

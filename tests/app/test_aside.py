"""Long computation beside: the same answers, the same refusals, an end for what takes for ever, and another
process for one that died.
"""

from __future__ import annotations

import copy
import os
import signal
import time
from concurrent.futures import ThreadPoolExecutor

import pytest

from jungoptic.app.base import aside as beside
from jungoptic.app.base.aside import NICE, TooLongError, aside
from jungoptic.app.takes.table import BenchTable, shot_with_everything
from jungoptic.core.errors import InputError
from jungoptic.core.example import DELIVERY, HERO, MILL, MODEL
from jungoptic.core.match import judge
from jungoptic.core.plan import solve
from tests.beside import refuse, who

from .conftest import Caller


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
    here, there = solve(*asked), aside(solve, *asked)
    assert [(one.set_up, one.layer, one.sentences) for one in here] == [
        (one.set_up, one.layer, one.sentences) for one in there
    ]
    assert [item.values() for one in here for item in one.judged] == [
        item.values() for one in there for item in one.judged
    ]


def test_it_is_another_process_that_lets_others_go_first():
    process, nice = aside(who)
    assert process != os.getpid() and nice == os.nice(0) + NICE
    assert aside(who)[0] == process, "begun once"


def test_what_is_refused_there_is_refused_here(supervisor: Caller, mill):
    with pytest.raises(InputError) as refused:
        aside(refuse)
    assert refused.value.problems[0].field == "locked"
    status, answer = supervisor("post", f"/layers/{mill.pk}/solve", {"locked": ["the moon"]})
    assert status == 422 and "the moon" in answer["problems"][0]["message"]


def test_a_process_that_died_is_followed_by_another():
    process, _ = aside(who)
    os.kill(process, signal.SIGKILL)
    assert aside(who)[0] not in (process, os.getpid())


def test_what_takes_too_long_is_given_up(monkeypatch: pytest.MonkeyPatch):
    process, _ = aside(who)
    monkeypatch.setattr(beside, "LONGEST_S", 0.2)
    with pytest.raises(TooLongError, match="given up"):
        aside(time.sleep, 60)
    monkeypatch.undo()
    assert aside(who)[0] != process
    with pytest.raises(ProcessLookupError):
        for _ in range(100):
            os.kill(process, 0)
            time.sleep(0.05)


def test_what_waits_behind_it_is_done_in_another(monkeypatch: pytest.MonkeyPatch):
    aside(who)
    monkeypatch.setattr(beside, "LONGEST_S", 4.0)
    with ThreadPoolExecutor() as people:
        late = people.submit(aside, time.sleep, 60)
        time.sleep(2.0)
        behind = [people.submit(aside, who) for _ in range(3)]
        with pytest.raises(TooLongError):
            late.result()
        assert len({one.result()[0] for one in behind}) == 1


def test_a_verdict_that_is_copied_has_its_values_worked_out():
    items = judge(HERO, MILL, MODEL, DELIVERY)
    for one in items:
        same = copy.copy(one)
        assert (same.item, same.sentence, same.values()) == (one.item, one.sentence, one.values())

"""Jobs: each done once, by a process of its own; stopped at any time; brought again when its worker was
killed; light ones never behind heavy ones.
"""

from __future__ import annotations

import os
import re
import signal
import tempfile
import time
from collections.abc import Callable
from datetime import timedelta
from pathlib import Path
from typing import Any

import pytest
from axes.models import AccessFailureLog
from django.conf import settings
from django.contrib.sessions.models import Session
from django.utils import timezone
from procrastinate.contrib.django.models import ProcrastinateJob

from jungoptic.app.base.models import Reply
from jungoptic.app.files.models import StoredFile
from jungoptic.app.jobs import asking, queue, room
from jungoptic.app.jobs.api import MOST
from jungoptic.app.jobs.models import Job
from jungoptic.app.jobs.running import Running, StoppedError
from jungoptic.app.jobs.work import MOST_ATTEMPTS, SCRATCH, attend, begin
from jungoptic.app.people.models import Person
from jungoptic.app.productions.models import Production
from jungoptic.app.productions.writing import in_production
from jungoptic.app.shots.models import Shot
from tests import slow_jobs, worker_settings
from tests.jobs import done
from tests.processes import worker

from .conftest import Caller, a_key

FASTER = worker_settings.FASTER
PRINTED_S = 20.0  # to start a worker and print a card on a loaded machine
ROOT = Path(__file__).resolve().parents[2]


# --- asked for, stopped, asked for again


@pytest.fixture
def card(supervisor: Caller, shot) -> dict[str, Any]:
    _, job = supervisor("post", f"/shots/{shot.pk}/cards", {"paper": "letter"})
    return job  # type: ignore[no-any-return]


def test_asking_for_a_card_puts_it_into_its_queue_once(supervisor: Caller, shot, production):
    key = a_key()
    first, again = (
        supervisor("post", f"/shots/{shot.pk}/cards", {"paper": "letter"}, key=key) for _ in range(2)
    )
    assert first == again and first[0] == 202
    card = first[1]
    assert (card["title"], card["state"], card["progress"], card["opens"]) == (
        "Shot card of TM010",
        "waiting",
        0,
        None,
    )
    assert supervisor("post", f"/productions/{production.pk}/book", {})[0] == 202
    assert sorted(ProcrastinateJob.objects.values_list("queue_name", "args__job_id"))[1] == (
        "light",
        card["id"],
    )
    assert [one.queue_name for one in ProcrastinateJob.objects.order_by("id")] == ["light", "heavy"]
    assert supervisor("post", f"/shots/{shot.pk}/cards", {"paper": "napkin"})[0] == 422


def test_a_job_is_followed_until_it_opens(supervisor: Caller, guest: Caller, production, card):
    assert done(card["id"]).state == "ready"
    seen = guest("get", f"/jobs/{card['id']}")[1]
    assert (seen["state"], seen["progress"]) == ("ready", 100)
    assert guest("get", seen["opens"].removeprefix("/api"))[1].startswith(b"%PDF")
    assert StoredFile.objects.get(pk=Job.objects.get().file_id).name == "TM010-card-letter.pdf"
    assert guest("get", f"/productions/{production.pk}/jobs?kind=card")[1] == [seen]
    assert guest("get", f"/productions/{production.pk}/jobs?kind=book")[1] == []
    assert begin(card["id"]) is None, "what is ready is not done again"


def test_the_last_card_of_each_shot_is_found_behind_any_number_of_others(
    supervisor: Caller, production, shot, card
):
    other = Shot.objects.get(code="TM020")
    asked_by = Person.objects.get(username="supervisor")
    Job.objects.bulk_create(
        [
            Job(kind="card", title="Shot card of TM020", production=production, shot=other, asked_by=asked_by)
            for _ in range(MOST)
        ]
    )
    path = f"/productions/{production.pk}/jobs?kind=card"
    assert card["id"] not in [one["id"] for one in supervisor("get", path)[1]]
    assert [one["id"] for one in supervisor("get", f"{path}&last_of_each_shot=true")[1]] == [
        Job.objects.latest("id").pk,
        card["id"],
    ]


def test_a_job_can_be_stopped_and_asked_for_again(supervisor: Caller, card):
    stopped = supervisor("delete", f"/jobs/{card['id']}")[1]
    assert (stopped["state"], stopped["version"]) == ("stopped", card["version"] + 1)
    assert done(card["id"]).file is None
    assert supervisor("delete", f"/jobs/{card['id']}")[1] == stopped, "what is over stays as it is"
    status, again = supervisor("post", f"/jobs/{card['id']}/again", {})
    assert (status, again["state"], again["kind"]) == (202, "waiting", "card") and again["id"] != card["id"]
    assert done(again["id"]).state == "ready"
    assert Job.objects.get(pk=again["id"]).arguments == Job.objects.get(pk=card["id"]).arguments


def test_only_who_asked_and_the_supervisor_stop_a_job_and_nobody_has_done_again_what_they_may_not_ask_for(
    supervisor: Caller, crew: Caller, guest: Caller, production, shot, card
):
    assert guest("delete", f"/jobs/{card['id']}")[0] == crew("delete", f"/jobs/{card['id']}")[0] == 403
    own = guest("post", f"/shots/{shot.pk}/cards", {})[1]
    assert guest("delete", f"/jobs/{own['id']}")[0] == 200
    own = guest("post", f"/jobs/{card['id']}/again", {})[1]
    assert supervisor("delete", f"/jobs/{own['id']}")[1]["state"] == "stopped"
    asked_by = Person.objects.get(username=own["asked_by"])
    boards = Job.objects.create(kind="boards", title="Boards", production=production, asked_by=asked_by)
    assert guest("post", f"/jobs/{boards.pk}/again", {})[0] == 403


def test_only_the_latest_attempt_ends_a_job(card):
    first = Running(begin(card["id"]))
    first.advance(0.5)
    second = Running(begin(card["id"]))
    with pytest.raises(StoppedError):
        first.advance(0.6)
    with pytest.raises(StoppedError):
        first.finish()
    second.finish()
    assert Job.objects.get().state == "ready"


def test_a_kind_that_is_not_done_any_more_is_said(supervisor: Caller, card):
    Job.objects.update(kind="engraving")
    attend(card["id"])
    job = Job.objects.get()
    assert (job.state, job.message) == ("failed", "This server does not do this any more.")
    assert supervisor("post", f"/jobs/{card['id']}/again", {})[0] == 422


def test_nobody_fills_a_queue_and_the_first_of_everybody_comes_before_the_second_of_anybody(
    supervisor: Caller, guest: Caller, shot, monkeypatch: pytest.MonkeyPatch
):
    def ask(caller: Caller) -> int:
        return caller("post", f"/shots/{shot.pk}/cards", {"paper": "letter"})[0]

    assert [ask(supervisor), ask(supervisor), ask(guest)] == [202] * 3
    assert list(ProcrastinateJob.objects.order_by("id").values_list("priority", flat=True)) == [0, -1, 0]
    monkeypatch.setitem(room.MOST_OF_ONE, "light", 2)
    answer = supervisor.client.post(
        f"/api/shots/{shot.pk}/cards",
        {"paper": "a4", "version": Shot.objects.get(pk=shot.pk).version},
        content_type="application/json",
    )
    said = answer.json()["problems"][0]["message"]
    assert (answer.status_code, answer["Retry-After"]) == (429, "4") and "busy, free in about 4 s" in said
    assert "What you asked for before" in said and ask(guest) == 202
    began = timezone.now()
    Job.objects.filter(asked_by__username="supervisor").update(
        state=Job.State.READY, began_at=began, ended_at=began + timedelta(seconds=9)
    )
    monkeypatch.setitem(room.MOST, "light", 2)
    answer = supervisor("post", f"/shots/{shot.pk}/cards", {"paper": "letter"})
    assert answer[0] == 429
    assert "Others are being served: busy, free in about 9 s" in answer[1]["problems"][0]["message"]


def test_what_is_interrupted_again_and_again_is_given_up(card):
    for _ in range(MOST_ATTEMPTS):
        assert begin(card["id"])
    assert begin(card["id"]) is None
    job = Job.objects.get()
    assert job.state == "failed" and "again and again" in job.message


def test_what_nobody_asks_for_any_more_is_forgotten(supervisor: Caller, production, card):
    old, new = timezone.now() - queue.KEPT - timedelta(hours=1), timezone.now()
    finished = done(card["id"])
    going = supervisor("post", f"/productions/{production.pk}/book", {})[1]
    supervisor("post", f"/productions/{production.pk}/places", {"name": "The sluice"}, key=a_key())
    Reply.objects.create(person=finished.asked_by, key="old", digest="", status=200, body="{}")
    Reply.objects.filter(key="old").update(at=old)
    queue.tidy(0)
    assert Job.objects.count() == 2 and Reply.objects.count() == 1
    Job.objects.update(asked_at=old)
    StoredFile.objects.filter(pk=finished.file_id).update(at=old)
    queue.tidy(int(new.timestamp()))
    assert [job.pk for job in Job.objects.all()] == [going["id"]], "what is not finished is not forgotten"
    assert not StoredFile.objects.filter(pk=finished.file_id).exists()


def test_long_answers_sessions_and_knocks_are_forgotten_before(
    supervisor: Caller, production, tmp_path: Path, monkeypatch: pytest.MonkeyPatch
):
    now = timezone.now()
    monkeypatch.setattr(tempfile, "tempdir", str(tmp_path))
    for name, hours in ((f"{SCRATCH}old", 25), (f"{SCRATCH}recent", 1), ("jungoptic-database", 25)):
        (tmp_path / name).mkdir()
        os.utime(tmp_path / name, (now.timestamp() - 3600 * hours,) * 2)
    person = Person.objects.get(username="supervisor")
    for key, size, days in (("long", 5000, 4), ("short", 10, 4), ("new", 5000, 2)):
        Reply.objects.create(person=person, key=key, digest="d", status=200, body="x" * size)
        Reply.objects.filter(key=key).update(at=now - timedelta(days=days))
    Session.objects.create(session_key="gone", session_data="", expire_date=now - timedelta(seconds=1))
    sessions = Session.objects.count()
    for name, hours in (("old", 25), ("recent", 1)):
        AccessFailureLog.objects.create(username=name, ip_address="198.51.100.7")
        AccessFailureLog.objects.filter(username=name).update(attempt_time=now - timedelta(hours=hours))
    queue.tidy(0)
    assert sorted(Reply.objects.values_list("key", flat=True)) == ["new", "short"]
    assert Session.objects.count() == sessions - 1 and not Session.objects.filter(pk="gone").exists()
    assert list(AccessFailureLog.objects.values_list("username", flat=True)) == ["recent"]
    assert {one.name for one in tmp_path.iterdir()} == {f"{SCRATCH}recent", "jungoptic-database"}


# --- real workers: what is waited for takes less than a heavy job by far, also where half a machine is gone

HEAVY_S, BEGUN_S, ENDED_S = 240.0, 40.0, 15.0


def asked(kind: Any, seconds: float, title: str = "Slow") -> Job:
    person = Person.objects.get(username="supervisor")
    with in_production(person, Production.objects.get(slug="the-tidemill").pk) as write:
        return asking.ask_for(write, kind, title, slow_jobs.Slow(seconds=seconds))


def wait_for(job: Job, reached: Callable[[Job], bool], within_s: float) -> Job:
    ends = time.monotonic() + within_s
    while time.monotonic() < ends:
        job.refresh_from_db()
        if reached(job):
            return job
        time.sleep(0.1)
    pytest.fail(
        f"after {within_s} s the job is {job.state} at {job.progress} per cent, attempt {job.attempt}:"
        f" {job.message}"
    )


def is_(*states: str) -> Callable[[Job], bool]:
    return lambda job: job.state in states


def gone(pid: int) -> bool:
    """Whether a process is there no more, or only waits to be buried."""
    try:
        return Path(f"/proc/{pid}/stat").read_text().rpartition(")")[2].split()[0] == "Z"
    except OSError:
        return True


def test_a_worker_killed_in_the_middle_is_followed_by_another_within_a_minute(stored: None):
    """kill -9 in the middle of a PDF: done by another, once.

    These workers are five times as quick to notice as the application's, whose three beats and ten seconds
    make less than a minute: with its own figures this test took 33 s, from asking to ready.
    """
    assert settings.JOB_STALLED_S == FASTER * worker_settings.JOB_STALLED_S and settings.JOB_SWEEP.endswith(
        "/10"
    )
    shot = Shot.objects.get(code="TM010")
    card = Job.objects.get(pk=Caller("supervisor")("post", f"/shots/{shot.pk}/cards", {})[1]["id"])
    with worker("light", "upkeep") as first:
        wait_for(card, lambda job: job.state == "working" and job.progress >= 10, 30)
        os.kill(first.pid, signal.SIGKILL)
        first.wait()
        card.refresh_from_db()
        assert card.state == "working"
        with worker("light", "upkeep"):
            wait_for(card, is_("ready"), 60 / FASTER + PRINTED_S)
    assert card.attempt == 2
    assert StoredFile.objects.filter(kind="application/pdf").count() == 1
    assert Job.objects.filter(state="ready").count() == 1


def test_stopping_ends_the_work_at_any_time_and_a_heavy_job_never_holds_up_a_light_one(stored: None):
    with worker("light", "upkeep"), worker("heavy"):
        heavy, waiting, another = (asked(slow_jobs.heavy, HEAVY_S) for _ in range(3))
        wait_for(heavy, is_("working"), BEGUN_S)
        light = asked(slow_jobs.light, 0.2)
        wait_for(light, is_("ready"), BEGUN_S)
        assert another.pk and Job.objects.get(pk=another.pk).state == "waiting"
        process = int(wait_for(heavy, lambda job: job.message != "", BEGUN_S).message)
        assert not gone(process)
        person = Person.objects.get(username="supervisor")
        for job in (heavy, waiting, another):
            with in_production(person, job.production_id) as write:
                asking.stop(write, job.pk, job.version)
        ends = time.monotonic() + ENDED_S
        while not gone(process) and time.monotonic() < ends:
            time.sleep(0.05)
        assert gone(process), "the work itself went on"
        # the worker is free again at once
        wait_for(asked(slow_jobs.heavy, 0.1), is_("ready"), BEGUN_S)
        assert set(
            Job.objects.filter(pk__in=[heavy.pk, waiting.pk, another.pk]).values_list("state", flat=True)
        ) == {"stopped"}


def test_what_is_stopped_may_come_to_rest_by_itself(stored: None):
    with worker("light", "upkeep"):
        job = asked(slow_jobs.resting, 1.5)
        wait_for(job, lambda job: job.message == "going", BEGUN_S)
        with in_production(Person.objects.get(username="supervisor"), job.production_id) as write:
            asking.stop(write, job.pk, job.version)
        wait_for(job, lambda job: job.message == "at rest", ENDED_S)
        assert job.state == "stopped"


def test_a_process_that_dies_or_takes_for_ever_is_said(stored: None):
    with worker("light", "upkeep"):
        late, dying = asked(slow_jobs.impatient, 60), asked(slow_jobs.dying, 0)
        greedy = asked(slow_jobs.greedy, 0)
        said = wait_for(late, is_("failed"), 30).message
        left = re.search(r"took longer than 4 s and was given up at (\S+?)\.", said)
        assert left, said
        assert "more memory" in wait_for(greedy, is_("failed"), 30).message
        assert greedy.message.endswith("It stood at the large one.")
        wait_for(dying, is_("failed"), 40)
        ends = time.monotonic() + 10
        while Path(left[1]).exists():
            assert time.monotonic() < ends, "what it put down outlives it"
            time.sleep(0.05)
        assert dying.attempt == MOST_ATTEMPTS + 1 and "again and again" in dying.message

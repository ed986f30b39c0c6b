"""What was written goes back to what stood, and comes again."""

from __future__ import annotations

from typing import Any

import pytest
from django.db import connection
from django.test.utils import CaptureQueriesContext

from jungoptic.app.base.models import Change, Reply
from jungoptic.app.builds.models import Build
from jungoptic.app.frames.models import ExposureSheet
from jungoptic.app.productions.models import Production
from jungoptic.app.rushes.models import SetUpMark
from jungoptic.app.safety.models import SignOff
from jungoptic.app.shots.models import Shot
from jungoptic.app.takes.models import Take

from .conftest import Caller, a_key, edit
from .seen import version_seen
from .test_writes import BODIES, SEES_OTHERWISE, Demo, send

PAPERS = (
    *("/copies", "/simulated", "_id}/cards", "/simulated-card", "/book", "/page", "/call-sheets"),
    *("sheet_id}/pictures", "rig_id}/turns"),
)


def newest(caller: Caller, production: Production, **query: Any) -> dict[str, Any]:
    asked = "&".join(f"{name}={value}" for name, value in query.items())
    _, found = caller("get", f"/productions/{production.pk}/history?{asked}")
    return found["writes"][0]  # type: ignore[no-any-return]


def back(caller: Caller, production: Production, **which: Any) -> tuple[int, Any]:
    return caller("post", f"/productions/{production.pk}/take-back", which, key=a_key())


BESIDE = {
    "post /api/layers/{layer_id}/stills",
    "post /api/layers/{layer_id}/exposure-sheet",
    "post /api/layers/{layer_id}/hyperlapse",
    "post /api/poses/{pose_id}/exposures",
}
# Writes that are taken back to what stood before, with how to look at it.
REVERSIBLE = sorted(
    set(BODIES)
    - (SEES_OTHERWISE - BESIDE)
    - {
        one
        for one in BODIES
        if any(word in one for word in (*PAPERS, "/boards", "/jobs", "/kit-opened", "/days-plan", "/rushes"))
    }
)


# numbers that count, and what follows from the clock or the disk
WITHOUT = {
    "version",
    "revision",
    "production_revision",
    "at",
    "id",
    "write",
    "shown",
    "follows",
    "room_frames",
    "figures_version",
}


def picture_of(demo: Demo) -> dict[str, Any]:
    """Everything that a person sees of the production, without numbers that count."""

    def bare(value: Any) -> Any:
        if isinstance(value, dict):
            return {name: bare(one) for name, one in value.items() if name not in WITHOUT}
        return [bare(one) for one in value] if isinstance(value, list) else value

    caller = Caller("supervisor")
    of = f"/productions/{demo.production.pk}"
    seen = {
        path: caller("get", path)[1]
        for path in (
            *(of, f"{of}/people"),
            *(f"{of}/places", f"{of}/stock", f"{of}/builds", f"{of}/figures", f"{of}/judging", f"{of}/days"),
        )
    }
    measured = caller("get", f"{of}/measuring")[1]["measured"]
    seen["measured"] = {one["id"]: caller("get", f"/measurements/{one['id']}")[1] for one in measured}
    kit = caller("get", f"{of}/kit")[1]["rows"]
    seen["kit"] = {kind: [row for row in rows if not row["removed"]] for kind, rows in kit.items()}
    seen |= {
        f"build {one.pk}": caller("get", f"/builds/{one.pk}")[1]
        for one in Build.objects.filter(removed=False)
    }
    seen["rush"] = caller("get", f"/recordings/{demo.rush().recording_id}/rush")[1]
    seen["frames"] = caller("get", f"{of}/frames")[1]
    seen |= {
        f"exposures {one.pk}": caller("get", f"/exposure-sheets/{one.pk}")[1]
        for one in ExposureSheet.objects.filter(removed=False)
    }
    seen["marks"] = list(SetUpMark.objects.values("kind", "places"))
    wall = caller.wall(demo.production)
    wall.pop("removed")
    for shot in (demo.shot, demo.other):
        seen |= {
            f"bench {shot.code}": caller.bench(shot),
            f"plan {shot.code}": caller.plan(shot),
            f"log {shot.code}": caller("get", f"/shots/{shot.pk}/log")[1],
            f"files {shot.code}": caller("get", f"/shots/{shot.pk}/recordings")[1],
            f"stills {shot.code}": caller("get", f"/shots/{shot.pk}/stills")[1],
        }
    found: dict[str, Any] = bare({**seen, "wall": wall})
    return found


@pytest.mark.parametrize("operation", REVERSIBLE)
def test_what_was_written_goes_back_to_what_stood_and_comes_again(supervisor: Caller, production, operation):
    demo = Demo()
    path, body = BODIES[operation](demo)
    version = demo.mill.version if "/changes" in path else version_seen(path, body)
    before, key = picture_of(demo), a_key()
    assert send(supervisor, operation, path, body, version, key)[0] < 300
    after = picture_of(demo)
    assert after != before
    assert back(supervisor, production, key=key)[0] == 200
    assert picture_of(demo) == before
    undone = newest(supervisor, production)
    assert undone["title"].startswith("Taken back: ") and undone["can_go_back"]
    assert back(supervisor, production, write=undone["id"])[0] == 200
    assert picture_of(demo) == after


def test_what_was_taken_back_says_the_versions_of_every_row_that_it_changed(
    supervisor: Caller, production, shot, mill
):
    key, set_up = a_key(), mill.set_up
    edits = {
        "layers": {mill.pk: edit(mill.version, width_m=9)},
        "set_ups": {set_up.pk: edit(set_up.version, iso=400)},
        "shot": {shot.pk: edit(shot.version, length_frames=120)},
    }
    assert supervisor("post", f"/shots/{shot.pk}/changes", edits, key=key)[0] == 200
    _, answer = back(supervisor, production, key=key)
    rows = {"layers": mill, "set_ups": set_up, "shot": shot}
    for row in rows.values():
        row.refresh_from_db()
    assert answer["versions"] == {kind: {str(row.pk): row.version} for kind, row in rows.items()}


def test_what_was_changed_since_does_not_go_back(supervisor: Caller, production, shot, mill):
    first, second = a_key(), a_key()
    for version, width, key in ((1, 9, first), (2, 7, second)):
        assert (
            supervisor(
                "post",
                f"/shots/{shot.pk}/changes",
                {"layers": {mill.pk: edit(version, width_m=width)}},
                key=key,
            )[0]
            == 200
        )
    status, answer = back(supervisor, production, key=first)
    assert status == 409 and "“Mill 1:12” while you worked (width)" in answer["problems"][0]["message"]
    assert (
        back(supervisor, production, key=second)[0] == 200
        and back(supervisor, production, key=first)[0] == 200
    )
    assert back(supervisor, production, key=first)[0] == 422, "only once"
    mill.refresh_from_db()
    assert (
        mill.width_m
        == Change.objects.filter(kind="layers", row_id=mill.pk, field="width_m").earliest("pk").before
    )


def test_the_crew_takes_back_its_own_and_nobody_a_fact(
    supervisor: Caller, crew: Caller, guest: Caller, production, shot, mill
):
    take = crew.take(mill)
    logged = newest(crew, production)
    assert not logged["can_go_back"] and back(crew, production, write=logged["id"])[0] == 422
    key = a_key()
    assert crew("patch", f"/takes/{take['id']}", {"circled": True}, key=key)[0] == 200
    assert newest(crew, production, mine=True, standing=True, shot=shot.pk)["key"] == key
    assert not newest(guest, production)["can_go_back"] and back(guest, production, key=key)[0] == 403
    assert back(crew, production, key=key)[0] == 200 and not Take.objects.get(pk=take["id"]).circled
    assert supervisor("patch", f"/shots/{shot.pk}/line", {"changes": {"title": "Other"}})[0] == 200
    assert back(crew, production, write=newest(supervisor, production)["id"])[0] == 403
    assert (
        back(supervisor, production, write=999999)[0] == 404
        and back(supervisor, production, key="")[0] == 404
    )


def test_the_history_is_read_a_page_at_a_time_and_of_one_shot(
    supervisor: Caller, guest: Caller, production, shot
):
    other = Shot.objects.get(code="TM020")
    for number in range(5):
        for one in (shot, other):
            assert (
                supervisor("patch", f"/shots/{one.pk}/line", {"changes": {"title": f"Title {number}"}})[0]
                == 200
            )
    seen, before = [], ""
    while True:
        page = guest("get", f"/productions/{production.pk}/history?limit=4{before}")[1]
        seen += page["writes"]
        if page["next"] is None:
            break
        before = f"&before={page['next']}"
    assert len(seen) == 10 and [one["id"] for one in seen] == sorted(
        (one["id"] for one in seen), reverse=True
    )
    assert {
        one["code"]
        for one in guest("get", f"/productions/{production.pk}/history?shot={shot.pk}")[1]["writes"]
    } == {"TM010"}
    line = seen[0]
    assert (line["by"], line["mine"], line["title"]) == ("Supervisor", False, "TM020: title")
    assert line["changes"][0] | {"kind": "shot"} == {
        "kind": "shot",
        "name": "TM020",
        "field": "title",
        "before": "Title 3",
        "after": "Title 4",
    }


def test_a_file_of_many_shots_is_one_line_of_the_history(supervisor: Caller, production):
    text = "".join(f"X{number:03d} Shot {number}\n" for number in range(300))
    assert (
        supervisor(
            "post",
            f"/productions/{production.pk}/take-in",
            {"name": "shots.txt", "text": text, "kind": "lines"},
        )[0]
        == 200
    )
    with CaptureQueriesContext(connection) as asked:
        line = newest(supervisor, production)
    assert len(asked) <= 10
    assert line["title"] == "shots.txt taken in" and len(line["changes"]) == 12 and line["more"] == 288
    assert back(supervisor, production, write=line["id"])[0] == 200
    assert Shot.in_cut.filter(production=production, code__startswith="X").count() == 0


def test_a_key_of_another_write_is_refused_and_a_refusal_is_not_kept(supervisor: Caller, shot):
    key, path = a_key(), f"/shots/{shot.pk}/line"
    assert supervisor("patch", path, {"version": 99, "changes": {"title": "A"}}, key=key)[0] == 409
    assert not Reply.objects.exists()
    assert supervisor("patch", path, {"changes": {"title": "A"}}, key=key)[0] == 200
    assert (
        supervisor("patch", path, {"changes": {"title": "B"}}, key=key)[1]["problems"][0]["field"]
        == "Idempotency-Key"
    )


def test_opening_a_caution_goes_back_with_the_shot_s_being_ready(supervisor: Caller, production):
    heron = Shot.objects.get(code="TM070")
    caution = SignOff.objects.filter(shot=heron)[0].caution
    before, key = supervisor.plan(heron), a_key()
    assert before["ready"]
    assert (
        supervisor("post", f"/shots/{heron.pk}/sign", {"caution": caution, "withdraw": True}, key=key)[0]
        == 200
    )
    assert not supervisor.plan(heron)["ready"]
    assert back(supervisor, production, key=key)[0] == 200
    assert (
        supervisor.plan(heron)["ready"]
        and SignOff.objects.filter(shot=heron, caution=caution, withdrawn=False).count() == 1
    )

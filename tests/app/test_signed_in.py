"""A page of one person asks while another is signed in on the device: nothing is done in another's name."""

from __future__ import annotations

from typing import Any

import pytest

from jungoptic.app.shots.models import Layer, Shot
from tests.app.conftest import Caller


def ask(
    caller: Caller, method: str, path: str, meant: str, body: dict[str, Any] | None = None
) -> tuple[int, Any]:
    answer = getattr(caller.client, method)(
        f"/api{path}", body or {}, content_type="application/json", headers={"X-Person": meant}
    )
    return answer.status_code, answer.json()


def test_whoever_the_page_was_opened_for_is_answered(crew: Caller):
    assert ask(crew, "get", "/productions", "camera")[0] == 200


@pytest.mark.parametrize("method", ["get", "patch"])
def test_a_page_of_somebody_else_is_not_answered(crew: Caller, method: str):
    path = "/productions" if method == "get" else "/session"
    status, said = ask(crew, method, path, "supervisor")
    assert status == 401
    assert said["problems"] == [
        {
            "field": "person",
            "message": "Somebody else is signed in on this device now. Sign in as supervisor again.",
        }
    ]


def test_a_take_that_waited_is_not_logged_in_the_name_of_whoever_signed_in_since(crew: Caller, shot: Shot):
    layer = Layer.objects.filter(shot=shot, set_up__isnull=False).first()
    assert layer
    before = layer.takes.count()
    status, _ = ask(crew, "post", f"/layers/{layer.pk}/takes", "runner", {"actual": {}})
    assert (status, layer.takes.count()) == (401, before)


def test_a_name_in_any_letters_is_read(crew: Caller):
    status, said = ask(crew, "get", "/productions", "S%C3%B8ren")
    assert status == 401 and "Søren" in said["problems"][0]["message"]

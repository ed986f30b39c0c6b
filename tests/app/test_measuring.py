"""One's own kit measured through the application."""

from __future__ import annotations

import json

from tests.jobs import done


def test_try(supervisor, production, shot):
    me = supervisor
    m = me("get", f"/productions/{production.pk}/measuring")[1]
    for l in m["lenses"][:6]:
        mode = m["modes"][0]["id"]
        r = me("post", f"/productions/{production.pk}/measurements", {"kind": "lens", "mode_id": mode, "lens_id": l["id"]})
        print(l, r)
        i = r[1]
        r = me("post", f"/measurements/{i['id']}/simulated", {})
        print(r)
        print(done(r[1]["id"]).message)
        a = me("get", f"/measurements/{i['id']}")[1]
        print(json.dumps({k: v for k, v in a.items() if k != "pictures"}, indent=1, ensure_ascii=False))
        e = me("get", f"/measurements/{i['id']}/effects")[1]
        print(e["shots"], e["left_out"])
        for x in e["lines"]: print(x)
    assert 0

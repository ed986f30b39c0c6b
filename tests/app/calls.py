"""The operations of what is made at the camera, for whoever asks who may call them."""

from __future__ import annotations

from .written import Demo


def of_cameras_cards(production, shot, take) -> list[tuple[str, str, object]]:
    """The operations of cards and their recordings."""
    row = Demo().recording()
    filed = {"filings": [{"recording_id": row.pk, "take_id": take.pk}]}
    return [
        ("get", f"/productions/{production.pk}/cards", None),
        ("post", f"/productions/{production.pk}/cards", {"place": row.card.place}),
        ("post", f"/productions/{production.pk}/simulated-card", {}),
        ("get", f"/productions/{production.pk}/dropped?name=a.mp4&size=9", None),
        ("post", f"/productions/{production.pk}/dropped", None),
        ("get", f"/cards/{row.card_id}", None),
        ("post", f"/cards/{row.card_id}/filings", filed),
        ("post", f"/cards/{row.card_id}/copies", {}),
        ("get", f"/shots/{shot.pk}/recordings", None),
        ("get", f"/recordings/{row.pk}/frame.jpg", None),
    ]


def of_rushes(production, shot) -> list[tuple[str, str, object]]:
    """The operations of recordings that are looked at."""
    of_row = f"/recordings/{Demo().rush().recording_id}"
    return [
        ("get", f"/shots/{shot.pk}/rushes", None),
        ("post", f"/productions/{production.pk}/rushes", {}),
        ("get", f"{of_row}/rush", None),
        ("post", f"{of_row}/curve", {"name": "srgb"}),
        ("post", f"{of_row}/measures", {"what": "flicker"}),
        ("post", f"{of_row}/frames", {"first": 1, "last": 8}),
        ("get", f"{of_row}/ways", None),
        ("post", f"{of_row}/decisions", {"what": "still", "amount": "moved", "choice": ""}),
        ("post", f"{of_row}/reference", {"what": "ball"}),
        ("post", f"/set-ups/{Demo().mill.set_up_id}/frame-marks", {"kind": "line", "places": []}),
    ]


def of_stills(shot, mill) -> list[tuple[str, str, object]]:
    return [
        ("get", f"/shots/{shot.pk}/stills", None),
        ("post", f"/layers/{mill.pk}/stills", None),
        ("patch", f"/stills/{Demo().still().pk}", {"note": "to the rim"}),
        ("get", f"/layers/{mill.pk}/sheet", None),
        ("post", f"/stills/{Demo().sheet().pk}/sheet", {}),
        ("get", f"/layers/{mill.pk}/line-up", None),
        ("post", f"/layers/{mill.pk}/line-up", None),
        ("get", f"/layers/{mill.pk}/live?width=160", None),
    ]


def of_frames(production, mill) -> list[tuple[str, str, object]]:
    """The operations of exposure sheets."""
    row = Demo().exposure()
    sheet = row.pose.sheet_id
    return [
        ("get", f"/productions/{production.pk}/frames", None),
        ("post", f"/layers/{mill.pk}/exposure-sheet", {}),
        ("get", f"/exposure-sheets/{sheet}", None),
        ("post", f"/exposure-sheets/{sheet}/rigs", {}),
        ("post", f"/exposure-sheets/{sheet}/poses", {"after": row.pose_id}),
        ("post", f"/exposure-sheets/{sheet}/span", Demo().span()),
        ("post", f"/exposure-sheets/{sheet}/pieces", {"name": "Bollard", "box": [0.1, 0.6, 0.2, 0.8]}),
        ("patch", f"/set-pieces/{Demo().set_piece().pk}", {"name": "The bollard"}),
        ("post", f"/exposure-sheets/{sheet}/figure-points", {"name": "Beak"}),
        ("patch", f"/figure-points/{Demo().figure_point().pk}", {"arcs": False}),
        (
            "post",
            f"/figure-points/{Demo().figure_point().pk}/places",
            {"exposure_id": row.pk, "x": 0.4, "y": 0.6},
        ),
        (
            "post",
            f"/exposure-sheets/{sheet}/clips",
            {"use": "performance", "recording_id": Demo().watched_film().pk},
        ),
        ("patch", f"/sheet-clips/{Demo().sheet_clip().pk}", {"first_frame": 2}),
        ("post", f"/exposure-sheets/{sheet}/cheats", {"kind": "wall", "name": "back wall"}),
        ("patch", f"/sheet-cheats/{Demo().sheet_cheat().pk}", {"away": True}),
        ("post", f"/layers/{mill.pk}/hyperlapse", {}),
        ("patch", f"/hyperlapses/{Demo().hyperlapse().pk}", {"plan": {}}),
        ("get", f"/hyperlapses/{Demo().hyperlapse().pk}/transforms.csv", None),
        ("post", f"/exposure-sheets/{sheet}/pictures", {}),
        ("post", f"/rigs/{Demo().driven_rig().pk}/turns", {"to": 12}),
        ("patch", f"/rigs/{Demo().rig().pk}", {"stands": 3}),
        ("patch", f"/poses/{row.pose_id}", {"figure": "stands"}),
        ("post", f"/poses/{row.pose_id}/exposures", None),
        ("patch", f"/exposures/{row.pk}", {"removed": False}),
        ("post", f"/exposures/{row.pk}/built-up", None),
        ("patch", f"/exposure-sheets/{sheet}", {"removed": True}),
    ]


def of_measurements(production) -> list[tuple[str, str, object]]:
    """The operations of measurements."""
    row = Demo().measurement()
    of_row = f"/measurements/{row.pk}"
    return [
        ("get", f"/productions/{production.pk}/measuring", None),
        ("post", f"/productions/{production.pk}/measurements", {"kind": "noise", "mode_id": row.mode_id}),
        ("get", of_row, None),
        ("get", f"{of_row}/effects", None),
        ("patch", of_row, {"asked": {"f_number": 2.8}}),
        ("post", f"{of_row}/pictures", None),
        ("patch", f"{of_row}/pictures/{row.pictures.all()[0].pk}", {"stops": 1}),
        ("post", f"{of_row}/simulated", {}),
        ("post", f"{of_row}/accept", {}),
        ("post", f"{of_row}/discard", {"discarded": True}),
    ]

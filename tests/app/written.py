"""What the writes are about: rows of the demo that a page would write to."""

from __future__ import annotations

import io
from base64 import b64decode
from datetime import timedelta
from pathlib import Path
from typing import Any

import numpy as np
from django.conf import settings
from django.core.files.uploadedfile import SimpleUploadedFile
from django.db.models import Model
from django.utils import timezone
from PIL import Image

from jungoptic.app.days.models import Booked, ShootingDay
from jungoptic.app.demo.production import SLUG
from jungoptic.app.files import keeping as files
from jungoptic.app.footage.models import Card, Recording
from jungoptic.app.frames.models import (
    Exposure,
    ExposureSheet,
    FigurePoint,
    Hyperlapse,
    Piece,
    Pose,
    Rig,
    SheetCheat,
    SheetClip,
)
from jungoptic.app.jobs.models import Job
from jungoptic.app.measuring.models import MeasuredPicture, Measurement
from jungoptic.app.moving.going_out import pack
from jungoptic.app.people.models import Person
from jungoptic.app.productions.models import Invitation, Place, Production
from jungoptic.app.rushes.models import FrameMeasure, Rush
from jungoptic.app.shots.models import Layer, Shot
from jungoptic.app.stills.models import Still
from jungoptic.app.takes.models import Take
from jungoptic.app.takes.shown import newest_entry
from jungoptic.core.stage import USUAL_FAULTS, recorded_codes

from .conftest import SATURDAY, Caller


class Demo:
    """What the writes are about."""

    def __init__(self) -> None:
        Job.objects.filter(state=Job.State.WAITING).update(state=Job.State.STOPPED)  # nobody does them here
        self.production = Production.objects.get(slug=SLUG)
        self.shot = Shot.objects.get(production=self.production, code="TM010")
        self.other = Shot.objects.get(production=self.production, code="TM020")
        self.mill = Layer.objects.get(shot=self.shot, name="Mill 1:12")

    def png(self) -> SimpleUploadedFile:
        out = io.BytesIO()
        Image.new("RGB", (64, 36), "white").save(out, "PNG")
        return SimpleUploadedFile("TM010.png", out.getvalue())

    def svg(self) -> SimpleUploadedFile:
        drawn = b'<svg xmlns="http://www.w3.org/2000/svg"><rect width="9" height="9"/></svg>'
        return SimpleUploadedFile("cog.svg", drawn)

    def hero(self) -> Layer:
        return Layer.objects.get(shot=self.shot, is_hero=True)

    def take(self) -> Take:
        Caller("camera").take(self.mill)
        return Take.objects.filter(layer=self.mill).latest("pk")

    def still(self) -> Still:
        """The liquid's level after the mill's last take."""
        found = Still.objects.filter(layer=self.mill, removed=False).first()
        if found is None:
            self.take()
            with self.png().open() as png:
                body = {"file": SimpleUploadedFile("level.png", png.read()), "of": "level"}
            made = Caller("camera").client.post(f"/api/layers/{self.mill.pk}/stills", body).json()
            found = Still.objects.get(pk=made["id"])
        return found

    def sheet(self) -> Still:
        """The mill's sheet, photographed."""
        with self.png().open() as png:
            body = {"file": SimpleUploadedFile("sheet.png", png.read()), "of": "sheet"}
        made = Caller("camera").client.post(f"/api/layers/{self.mill.pk}/stills", body).json()
        return Still.objects.get(pk=made["id"])

    def frame(self, shade: int = 0) -> SimpleUploadedFile:
        """A frame of the desk: a board of squares, a little lighter by shade."""
        squares = np.kron(np.indices((9, 16)).sum(axis=0) % 2 * 120 + 60 + shade, np.ones((20, 20)))
        out = io.BytesIO()
        Image.fromarray(np.uint8(squares)).save(out, "PNG")
        return SimpleUploadedFile("frame.png", out.getvalue())

    def exposure_sheet(self) -> ExposureSheet:
        """The Heron's."""
        mine = ExposureSheet.objects.filter(layer__shot__production=self.production, layer__name="Heron 1:4")
        return mine.latest("pk")

    def pose(self) -> Pose:
        return self.exposure_sheet().poses.all()[0]

    def span(self) -> dict[str, Any]:
        """Two lines of the sheet, put on ones."""
        first, last = self.exposure_sheet().poses.filter(removed=False)[2:4]
        return {"first": first.pk, "last": last.pk, "how": "regrouped", "on": 1}

    def set_piece(self) -> Piece:
        sheet = self.exposure_sheet()
        return Piece.objects.get_or_create(sheet=sheet, name="Post", box=[0.7, 0.5, 0.8, 0.7])[0]

    def figure_point(self) -> FigurePoint:
        return FigurePoint.objects.get_or_create(sheet=self.exposure_sheet(), name="Toe")[0]

    def hyperlapse(self) -> Hyperlapse:
        """That of the pond."""
        return Hyperlapse.objects.filter(point__sheet__layer__shot__production=self.production).latest("pk")

    def rig(self) -> Rig:
        """The track under the Heron."""
        return self.exposure_sheet().rigs.all()[0]

    def driven_rig(self) -> Rig:
        """The same with a motor on its crank."""
        row = self.rig()
        Rig.objects.filter(pk=row.pk).update(driven=True)
        return row

    def exposure(self) -> Exposure:
        """The first pose's."""
        pose = self.pose()
        if not pose.exposures.filter(removed=False).exists():
            body = {"file": self.frame()}
            assert Caller("camera").client.post(f"/api/poses/{pose.pk}/exposures", body).status_code == 201
        return Exposure.objects.get(pose=pose, chosen=True, removed=False)

    def measurement(self) -> Measurement:
        """Vignetting, measured and not yet in the kit."""
        who = Person.objects.get(username="camera")
        lens, mode = (self.mill.set_up.lens, self.mill.set_up.mode)  # type: ignore[union-attr]
        row, made = Measurement.objects.get_or_create(
            production=self.production,
            kind="vignetting",
            kept_at=None,
            defaults={
                "name": "Vignetting: 35 mm",
                "lens": lens,
                "mode": mode,
                "asked": {"f_number": 2.0},
                "begun_by": who,
            },
        )
        for stops in (1.1, 1.12, 1.11) if made else ():
            MeasuredPicture.objects.create(
                measurement=row, name="flat.png", told={"stops": stops, "says": "darker"}
            )
        return row

    def flat(self) -> SimpleUploadedFile:
        """Something even, as the lens of that measurement darkens it."""
        mode = self.measurement().mode
        out = io.BytesIO()
        height = round(320 * mode.gate_height_mm / mode.gate_width_mm)
        down, right = np.mgrid[-height + 1 : height : 2, -319:320:2]
        light = 0.4 * 2.0 ** (-1.1 * (down**2 + right**2) / (height**2 + 320**2))
        Image.fromarray(recorded_codes(light)).save(out, "PNG")
        return SimpleUploadedFile("flat.png", out.getvalue())

    def recording(self) -> Recording:
        """A file of a card of a camera."""
        folder = Path(settings.SIMULATED_CARDS) / "A001"
        folder.mkdir(parents=True, exist_ok=True)
        who = Person.objects.get(username="camera")
        card, _ = Card.objects.get_or_create(
            production=self.production, place=str(folder.resolve()), defaults={"name": "A001", "read_by": who}
        )
        return Recording.objects.get_or_create(card=card, path="A.MP4", size_bytes=9, modified=0)[0]

    def waits(self) -> Recording:
        """A file that is filed, and that nobody looked at yet."""
        row = self.recording()
        row.take, row.says, row.path = self.take(), {"kind": "clip"}, "B.MP4"
        row.pk = None
        row.save()
        return row

    def rush(self) -> Rush:
        """A file that was looked at."""
        says = {"kind": "clip", "curve": "bt709", "matrix": "bt709", "bits": 8, "legal": True, "frames": 40}
        return Rush.objects.get_or_create(recording=self.recording(), defaults={"says": says})[0]

    def watched_film(self) -> Recording:
        """A recording of which there is a film that can be gone through."""
        rush = self.rush()
        if rush.proxy is None:
            size = {"width_px": 1920, "height_px": 1080, "rate_fps": 25.0, "strip_every": 4}
            rush.says = {**rush.says, **size}
            who = Person.objects.get(username="camera")
            data = self.png().read()
            rush.proxy = files.keep(self.production.pk, "proxy", data, {"image/png"}, person_id=who.pk)
            rush.save()
        return rush.recording

    def sheet_clip(self) -> SheetClip:
        sheet, film = self.exposure_sheet(), self.watched_film()
        return SheetClip.objects.get_or_create(sheet=sheet, use="plate", removed=False, recording=film)[0]

    def sheet_cheat(self) -> SheetCheat:
        values = {"kind": "lamp", "name": "spot", "removed": False}
        return SheetCheat.objects.get_or_create(sheet=self.exposure_sheet(), **values)[0]

    def measured(self, layer: Layer, what: str, **amounts: float) -> Rush:
        """A file of a circled take that was looked at, and a row that was measured of it."""
        Caller("camera").take(layer, circled=True)
        row = self.recording()
        row.pk, row.path, row.take = None, f"{what}.MP4", Take.objects.filter(layer=layer).latest("pk")
        row.save()
        rush = Rush.objects.create(recording=row, says=self.rush().says)
        told = {
            **{"what": what, "says": "Measured.", "assumptions": [], "overlays": [], "series": []},
            "amounts": [
                {"name": name, "title": name, "value": value, "error": 0.1, "unit": ""}
                for name, value in amounts.items()
            ],
        }
        FrameMeasure.objects.create(rush=rush, what=what, told=told, by=row.take.recorded_by)
        return rush

    def job(self) -> Job:
        Caller("supervisor")("post", f"/shots/{self.shot.pk}/cards", {})
        return Job.objects.latest("pk")

    def film(self) -> SimpleUploadedFile:
        packed = io.BytesIO()
        pack(self.production.pk, packed)
        return SimpleUploadedFile("tidemill.zip", packed.getvalue())

    def newest(self) -> int:
        return newest_entry(self.production.pk)

    def first(self, model: type[Model], **kept: Any) -> int:
        """Of this production: a film that was brought in has rows of the same names."""
        kept |= {"removed": False} if hasattr(model, "removed") else {}
        rows = model._default_manager.filter(production=self.production, **kept)
        return int(rows.values_list("pk", flat=True)[0])

    def shooting_day(self) -> ShootingDay:
        return ShootingDay.objects.get_or_create(production=self.production, date=SATURDAY)[0]

    def booking(self) -> dict[str, Any]:
        set_up = self.shot.set_ups.all()[0].pk
        Booked.objects.get_or_create(set_up_id=set_up, production=self.production)
        return {"set_up_id": set_up, "date": self.shooting_day().date.isoformat(), "start_min": 540}

    def empty_place(self) -> int:
        return Place.objects.get_or_create(production=self.production, name="The sluice gate")[0].pk

    def invitation(self) -> int:
        kept = {"production": self.production, "role": "crew", "digest": "f" * 64}
        later = timezone.now() + timedelta(days=1)
        return Invitation.objects.get_or_create(**kept, defaults={"expires_at": later})[0].pk

    def check(self) -> str:
        return next(
            one["checks"][0]["text"]
            for one in Caller("supervisor").plan(self.shot)["plates"]
            if one["layer_id"] == self.mill.pk
        )


# What is written of photographs and measurements, as in test_writes.
OF_STILLS = {
    "post /api/layers/{layer_id}/stills": lambda d: (
        f"/layers/{d.mill.pk}/stills",
        {"file": d.png(), "of": "pose"},
    ),
    "post /api/stills/{still_id}/sheet": lambda d: (f"/stills/{d.sheet().pk}/sheet", {}),
    "patch /api/stills/{still_id}": lambda d: (f"/stills/{d.still().pk}", {"of": "moved"}),
}
OF_RUSHES = {
    "post /api/productions/{production_id}/rushes": lambda d: (
        f"/productions/{d.waits().card.production_id}/rushes",
        {},
    ),
    "post /api/recordings/{recording_id}/curve": lambda d: (
        f"/recordings/{d.rush().recording_id}/curve",
        {"name": "srgb"},
    ),
    "post /api/recordings/{recording_id}/frames": lambda d: (
        f"/recordings/{d.rush().recording_id}/frames",
        {"first": 1, "last": 5},
    ),
    "post /api/recordings/{recording_id}/measures": lambda d: (
        f"/recordings/{d.rush().recording_id}/measures",
        {"what": "evenness", "frame": 3},
    ),
    "post /api/recordings/{recording_id}/decisions": lambda d: (
        f"/recordings/{d.measured(d.mill, 'still', moved=2.3).recording_id}/decisions",
        {"what": "still", "amount": "moved", "choice": "again", "reason": "It is quick."},
    ),
    "post /api/recordings/{recording_id}/reference": lambda d: (
        f"/recordings/{d.measured(d.hero(), 'ball', azimuth=40.0, elevation=20.0).recording_id}/reference",
        {"what": "ball"},
    ),
    "post /api/set-ups/{set_up_id}/frame-marks": lambda d: (
        f"/set-ups/{d.mill.set_up_id}/frame-marks",
        {"kind": "line", "places": [[0.5, 0.0], [0.5, 1.0]]},
    ),
}
OF_MEASUREMENTS = {
    "post /api/productions/{production_id}/measurements": lambda d: (
        f"/productions/{d.production.pk}/measurements",
        {"kind": "noise", "mode_id": d.measurement().mode_id},
    ),
    "patch /api/measurements/{measurement_id}": lambda d: (
        f"/measurements/{d.measurement().pk}",
        {"asked": {"f_number": 2.8}},
    ),
    "post /api/measurements/{measurement_id}/pictures": lambda d: (
        f"/measurements/{d.measurement().pk}/pictures",
        {"files": d.flat()},
    ),
    "patch /api/measurements/{measurement_id}/pictures/{measured_picture_id}": lambda d: (
        f"/measurements/{d.measurement().pk}/pictures/{d.measurement().pictures.all()[0].pk}",
        {"dropped": True},
    ),
    "post /api/measurements/{measurement_id}/simulated": lambda d: (
        f"/measurements/{d.measurement().pk}/simulated",
        {},
    ),
    "post /api/measurements/{measurement_id}/accept": lambda d: (
        f"/measurements/{d.measurement().pk}/accept",
        {},
    ),
    "post /api/measurements/{measurement_id}/discard": lambda d: (
        f"/measurements/{d.measurement().pk}/discard",
        {"discarded": True},
    ),
}


def filmed(caller: Caller, layer: Any, **how: Any) -> tuple[int, Any]:
    """The answer of the simulated camera before a layer."""
    asked = "&".join(f"{name}={value}" for name, value in ({"faults": ",".join(USUAL_FAULTS)} | how).items())
    return caller("get", f"/layers/{layer.pk}/live?{asked}")


def live(caller: Caller, layer: Any, **how: Any) -> bytes:
    status, answer = filmed(caller, layer, **how)
    assert status == 200 and answer["measured"] is None
    return b64decode(answer["picture"])


def held(caller: Caller, layer: Any, data: bytes, of: str = "frame") -> int:
    body = {"file": SimpleUploadedFile("frame.jpg", data), "of": of}
    return int(caller.client.post(f"/api/layers/{layer.pk}/stills", body).json()["id"])

"""Who is in a production, and the ways into it, over the wire."""

from __future__ import annotations

from datetime import datetime
from typing import Literal

from pydantic import BaseModel as Schema
from pydantic import Field

from jungoptic.app.base import qr
from jungoptic.app.base.schemas import Role, Seen
from jungoptic.core.quantities import YesNo


class MemberOut(Schema):
    """``here``: no, of whom came in with a file of the production and has no way to sign in yet."""

    id: int
    version: int
    username: str
    name: str
    role: Role
    since: datetime
    last_seen: datetime | None
    oneself: bool
    here: bool


class InvitationRow(Schema):
    id: int
    version: int
    name: str
    role: Role
    by: str
    expires_at: datetime


class PeopleOut(Schema):
    """Who is in the production; the open invitations for its supervisors only."""

    version: int
    people: list[MemberOut]
    invitations: list[InvitationRow]


class InvitationIn(Seen):
    """``token``: made by the page that shows the address; only its hash is kept here. ``member``: who is in
    the production and not here yet, to whom the account goes.
    """

    token: str = Field(max_length=200)
    role: Role
    name: str = Field("", max_length=80)
    days: float = 7
    member: int | None = None


class MemberChange(Seen):
    role: Role | None = None
    removed: YesNo | None = None


class Token(Schema):
    token: str = Field(max_length=200)


class InvitationOut(Schema):
    """What an address leads to."""

    kind: Literal["first", "join", "password"]
    production: str
    role: str
    by: str
    username: str
    name: str
    expires_at: datetime


class AccountIn(Token):
    username: str = Field("", max_length=150)
    name: str = Field("", max_length=150)
    password: str = Field(max_length=200)


class JoinedOut(Schema):
    production: int


class QrIn(Schema):
    text: str = Field(min_length=1, max_length=qr.LONGEST)


class QrOut(Schema):
    svg: str

"""What nobody needs any more of who came and who knocked."""

from __future__ import annotations

from axes.models import AccessAttempt, AccessFailureLog, AccessLog
from django.contrib.sessions.models import Session
from django.utils import timezone

from jungoptic.app.people.lockout import REMEMBERED


def forget_visits() -> int:
    """Forget sessions that ran out, and tries to sign in once no lock looks at them. Returns how many."""
    now = timezone.now()
    gone = Session.objects.filter(expire_date__lt=now).delete()[0]
    for model in (AccessFailureLog, AccessAttempt, AccessLog):
        gone += model.objects.filter(attempt_time__lt=now - REMEMBERED).delete()[0]
    return gone

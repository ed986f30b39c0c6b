"""Being signed in without the form."""

from django.contrib.auth import BACKEND_SESSION_KEY, HASH_SESSION_KEY, SESSION_KEY
from django.contrib.sessions.backends.db import SessionStore

from jungoptic.app.people.models import Person


def session_of(username: str) -> str:
    """The key of a new session, as signing in by the form leaves it."""
    person = Person.objects.get(username=username)
    session = SessionStore()
    session[SESSION_KEY] = str(person.pk)
    session[BACKEND_SESSION_KEY] = "django.contrib.auth.backends.ModelBackend"
    session[HASH_SESSION_KEY] = person.get_session_auth_hash()
    session.create()
    return str(session.session_key)

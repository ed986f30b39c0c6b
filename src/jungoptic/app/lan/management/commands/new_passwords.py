"""``new_passwords``: accounts with the demo's printed password get passwords of their own."""

import secrets
from typing import Any

from django.core.management.base import BaseCommand

from jungoptic.app.people.models import Person
from jungoptic.app.people.passwords import still_printed


class Command(BaseCommand):
    help = "Give each account that has the printed password one of its own, and print it once."

    def handle(self, *args: Any, **options: Any) -> None:
        for username in still_printed():
            person = Person.objects.get(username=username)
            password = "-".join(secrets.token_hex(2) for _ in range(4))
            person.set_password(password)
            person.save(update_fields=["password"])
            self.stdout.write(f"  {username:<12} {password}")

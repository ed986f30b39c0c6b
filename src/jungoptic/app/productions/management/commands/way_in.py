"""``way_in``: an address, for once, that makes the first account, or lets a person choose a new password."""

from typing import Any

from django.core.management.base import BaseCommand, CommandError, CommandParser

from jungoptic.app.people.models import Person
from jungoptic.app.productions.inviting import has_accounts, of_the_machine


class Command(BaseCommand):
    help = (
        "Print an address that works once: without a name for the first account (nothing where there is one)."
    )

    def add_arguments(self, parser: CommandParser) -> None:
        parser.add_argument("username", nargs="?", help="Whose password is chosen anew.")
        parser.add_argument("--at", default="", help="Where the application is, like https://cart.local/.")

    def handle(self, *args: Any, **options: Any) -> None:
        forgetful = None
        if options["username"]:
            forgetful = Person.objects.filter(username=options["username"], is_active=True).first()
            if forgetful is None:
                known = ", ".join(
                    Person.objects.filter(is_active=True).values_list("username", flat=True)[:20]
                )
                raise CommandError(
                    f"There is nobody called {options['username']!r}; there are: {known or 'none'}."
                )
        elif has_accounts():
            return
        token, _ = of_the_machine(forgetful)
        self.stdout.write(f"{options['at']}#/join/{token}")

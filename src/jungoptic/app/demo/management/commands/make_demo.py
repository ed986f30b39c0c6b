"""``make_demo``: the invented production, its kit and its people."""

from typing import Any

from django.core.management.base import BaseCommand

from jungoptic.app.demo.footage import ask_for_footage
from jungoptic.app.demo.production import make_demo


class Command(BaseCommand):
    help = "Make the demo production and its sign-ins, if they are not there."

    def handle(self, *args: Any, **options: Any) -> None:
        production = make_demo()
        ask_for_footage(production)
        self.stdout.write(f"{production.title}: {production.shots.count()} shot(s).")

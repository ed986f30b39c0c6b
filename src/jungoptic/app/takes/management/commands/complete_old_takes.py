"""Give takes from before facts were kept theirs, from the plan as it stands now. Safe to run again."""

from typing import Any

from django.core.management.base import BaseCommand

from jungoptic.app.takes.facts import complete_old_takes


class Command(BaseCommand):
    help = __doc__

    def handle(self, *args: Any, **options: Any) -> None:
        count = complete_old_takes()
        if count:
            self.stdout.write(
                f"{count} takes from before facts were kept have theirs from the plan as it stands now, and"
                " say so."
            )

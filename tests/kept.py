"""What the process keeps of shots and calls: a shot that was put back may come to the same version with other
values.
"""

from django.core.cache import cache

from jungoptic.app.days.from_shots import KEPT
from jungoptic.app.takes.table import forget_all


def forget_everything() -> None:
    forget_all()
    KEPT.forget_all()
    cache.clear()

"""Loaded once into the server that the processes of jobs are forked from, so that each begins at once."""

from importlib import import_module

import django
from django.conf import settings

django.setup()
for _name in settings.PRELOADED:
    import_module(_name)

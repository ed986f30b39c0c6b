"""The entry of the process that tells browsers what happens."""

import os

from django.core.asgi import get_asgi_application

os.environ["DJANGO_SETTINGS_MODULE"] = "jungoptic.app.events.settings"
application = get_asgi_application()

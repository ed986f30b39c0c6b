"""The entry of the process that tells browsers what happens."""

import os

from django.core.asgi import get_asgi_application

from jungoptic.app.serving import refuse_without_secret

os.environ["DJANGO_SETTINGS_MODULE"] = "jungoptic.app.events.settings"
refuse_without_secret()
application = get_asgi_application()

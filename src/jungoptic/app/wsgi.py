"""The web server's entry."""

import gc
import os

from django.core.wsgi import get_wsgi_application

from jungoptic.app.base.desk import warm_up
from jungoptic.app.serving import refuse_without_secret

os.environ.setdefault("DJANGO_SETTINGS_MODULE", "jungoptic.app.settings")
refuse_without_secret()
application = get_wsgi_application()

# What is loaded now stays for good: it need not be looked through at every collection while somebody drags.
gc.collect()
gc.freeze()
gc.set_threshold(20_000, 20, 20)

warm_up()

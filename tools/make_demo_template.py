"""Make the demo's template for the tests, if these sources have none yet; needs DATABASE_URL and the tests'
settings.
"""

import django

django.setup()

from tests.demo_database import template  # noqa: E402

template()

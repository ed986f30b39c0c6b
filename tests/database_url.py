"""The test's own database, for processes beside it."""

from django.db import connection


def database_url() -> str:
    where = connection.settings_dict
    return f"postgresql://{where['USER']}:{where['PASSWORD']}@{where['HOST']}:{where['PORT']}/{where['NAME']}"

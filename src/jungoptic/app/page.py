"""The one page: the built front end, with the CSRF cookie set."""

from django.conf import settings
from django.http import HttpRequest, HttpResponse
from django.views.decorators.cache import never_cache
from django.views.decorators.csrf import ensure_csrf_cookie
from django.views.decorators.http import require_safe

from jungoptic.app.people.signed_in import events_address


@require_safe
@never_cache
@ensure_csrf_cookie
def page(request: HttpRequest) -> HttpResponse:
    built = settings.WEB_BUILD / "index.html"
    if not built.is_file():
        return HttpResponse(
            "The front end is not built yet. Run ./run demo, which builds it.",
            status=503,
            content_type="text/plain",
        )
    answer = HttpResponse(built.read_bytes(), content_type="text/html; charset=utf-8")
    if (heard_at := events_address(request)) is not None:
        answer._csp_update = {"connect-src": [heard_at]}  # type: ignore[attr-defined]
    return answer

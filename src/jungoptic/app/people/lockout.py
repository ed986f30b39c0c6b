"""What is answered when an account is locked after repeated failures."""

from typing import Any

from django.http import HttpRequest, HttpResponse, JsonResponse


def locked_out(
    request: HttpRequest,
    response: HttpResponse | None = None,
    credentials: Any = None,
    *args: Any,
    **kwargs: Any,
) -> JsonResponse:
    message = (
        "Too many wrong passwords. This account is locked for 15 minutes from here; then try again, or ask"
        " your supervisor to reset it."
    )
    return JsonResponse({"problems": [{"field": "password", "message": message}]}, status=429)

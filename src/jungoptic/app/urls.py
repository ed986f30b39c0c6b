"""The API, and the page for every other address."""

from django.urls import path, re_path

from jungoptic.app.api.main import api
from jungoptic.app.health import alive, ready
from jungoptic.app.page import page

urlpatterns = [
    path("api/", api.urls),
    path("health/alive", alive),
    path("health/ready", ready),
    re_path(r"^(?!api/|static/|health/).*$", page),
]

handler400 = "jungoptic.app.base.refused.bad_request"
handler403 = "jungoptic.app.base.refused.forbidden"
handler404 = "jungoptic.app.base.refused.not_found"
handler500 = "jungoptic.app.base.refused.broken"

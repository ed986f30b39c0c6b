"""The API, and the page for every other address."""

from django.urls import path, re_path

from jungoptic.app.api.main import api
from jungoptic.app.page import page

urlpatterns = [path("api/", api.urls), re_path(r"^(?!api/|static/).*$", page)]

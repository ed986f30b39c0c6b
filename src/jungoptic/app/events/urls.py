"""The one address of this process."""

from django.urls import path

from jungoptic.app.events.views import happens

urlpatterns = [path("events/<int:production_id>", happens)]

"""Addresses: the API, and for every other one the page of the front end."""

from django.urls import path, re_path

from bexi.server.api import api
from bexi.server.health import health
from bexi.server.page import page

urlpatterns = [
    path("api/", api.urls),
    path("health", health),
    re_path(r"^(?!api/|assets/).*$", page),
]

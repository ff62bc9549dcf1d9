from django.urls import include, path, re_path

from .page import page

urlpatterns = [
    path("api/", include("api.urls")),
    re_path(r"^(?!api/|static/).*$", page),
]

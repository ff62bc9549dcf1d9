from django.apps import AppConfig


class ApiConfig(AppConfig):
    name = "api"

    def ready(self) -> None:
        from . import openapi  # noqa: F401  (registers itself)

from django.apps import AppConfig


class SendingConfig(AppConfig):
    name = "sending"

"""What the OpenAPI document says of the guard at the door."""

from drf_spectacular.extensions import OpenApiAuthenticationExtension


class CsrfGuardScheme(OpenApiAuthenticationExtension):
    target_class = "api.guard.CsrfGuard"
    name = "csrf"

    def get_security_definition(self, auto_schema):
        return {"type": "apiKey", "in": "header", "name": "X-CSRFToken"}

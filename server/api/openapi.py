"""What the OpenAPI document says of the guard at the door, and of the parameters of operations."""

from drf_spectacular.extensions import OpenApiAuthenticationExtension

from hakobu.model.validate import schema_of_values
from hakobu.operations import OPERATIONS


class CsrfGuardScheme(OpenApiAuthenticationExtension):
    target_class = "api.csrf.CsrfGuard"
    name = "csrf"

    def get_security_definition(self, auto_schema):
        return {"type": "apiKey", "in": "header", "name": "X-CSRFToken"}


def add_parameters(result, generator, request, public):
    """The parameters of each operation, and all of them as a union that `operation` tells apart."""
    schemas = result["components"]["schemas"]
    names = {}
    for operation in OPERATIONS:
        _, parts = schema_of_values(operation.parameters, operation.id)
        name = "Parameters" + "".join(word.capitalize() for word in operation.id.split("-"))
        names[operation.id] = f"#/components/schemas/{name}"
        schemas[name] = parts[operation.id]
    schemas["StepParameters"] = {
        "oneOf": [{"$ref": ref} for ref in names.values()],
        "discriminator": {"propertyName": "operation", "mapping": names},
    }
    return result

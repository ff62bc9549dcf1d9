"""The OpenAPI document and the types made from it are what the code says now."""

import subprocess
import tempfile
from pathlib import Path

from django.core.management import call_command
from django.test import SimpleTestCase

ROOT = Path(__file__).parents[3]
DOCUMENT, TYPES = ROOT / "server" / "api" / "openapi.yaml", ROOT / "web" / "src" / "api" / "schema.d.ts"


class Stale(SimpleTestCase):
    def test_the_document_is_valid_and_fresh(self):
        with tempfile.NamedTemporaryFile(suffix=".yaml") as file:
            call_command("spectacular", "--validate", "--fail-on-warn", "--file", file.name)
            self.assertEqual(
                Path(file.name).read_text(), DOCUMENT.read_text(), "make it again: see docs/architecture.md"
            )

    def test_the_types_are_fresh(self):
        with tempfile.TemporaryDirectory() as folder:
            made = Path(folder) / "schema.d.ts"
            command = ["npx", "openapi-typescript", str(DOCUMENT), "-o", str(made)]
            subprocess.run(command, cwd=ROOT / "web", check=True, capture_output=True)
            self.assertEqual(made.read_text(), TYPES.read_text(), "make them again: npm run types")

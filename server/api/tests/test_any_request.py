"""Whatever is sent to any address, in the words of the OpenAPI document or in none, is answered with a sentence, never
with a fault of the program (schemathesis makes the requests; RFC 8259 says what JSON is)."""

import json
import warnings
from pathlib import Path

import schemathesis
import yaml
from django.test import TransactionTestCase
from hypothesis import HealthCheck, given, settings
from hypothesis import strategies as st
from schemathesis import GenerationMode
from schemathesis.config import SchemathesisConfig

from jobs import history
from jobs.models import Job

DOCUMENT = Path(__file__).parents[1] / "openapi.yaml"
SQUARE = b"""<svg xmlns="http://www.w3.org/2000/svg" width="100mm" height="100mm"><path d="M10 10H40V40H10Z"/></svg>"""
#: Requests of each kind to each address.
EACH = 4
#: What no field may make a fault of: wrong kinds, signs that are none, numbers beyond all, deep and long things.
HOSTILE = (
    None, True, -1, 5, 1.5, 10**30, -(2**63), 1e308, "", "\0", "a\0b", "\ud800", "\u202eabc", "x" * 5000, "../../etc/passwd",
    "1e309mm", "nan", [], [[]], {}, {"\0": "\ud800"}, [None], [{}], ["\0"], [10**30], {"a": {"b": [1, {"c": None}]}},
    "日本", "%00", "'; drop table jobs_job; --",
)  # fmt: skip
RAW = (
    b"", b"{", b"null", b"[]", b"5", b'"x"', b'{"a": NaN}', b'{"a": Infinity}', b"\xff\xfe", b"[" * 50_000, b'{"a":' * 5000,
    b'{"a": "\\ud800"}', b'{"a": "\\u0000"}', b'{"a": 1e999}', b"[" + b"0," * 300_000 + b"0]", b"x" * 5_000_000,
)  # fmt: skip


class AnyRequest(TransactionTestCase):
    @classmethod
    def setUpClass(cls):
        super().setUpClass()
        cls.document = yaml.safe_load(DOCUMENT.read_text())
        made = schemathesis.openapi.from_dict(cls.document, config=SchemathesisConfig.discover())
        cls.operations = [found.ok() for found in made.get_all_operations()]

    def setUp(self):
        job = history.create_job("Square")
        history.bring_in(job, job.head_id, "square.svg", SQUARE)
        head = Job.objects.get(pk=job.pk).head
        self.known = {
            "job": str(job.pk),
            "revision": str(head.pk),
            "document": head.document_id,
            "format_id": "svg",
            "machine": "any",
            "kind": "materials",
        }

    def ask(self, operation, path: dict, query: dict, body: bytes, media_type: str) -> None:
        address = operation.path
        for name, value in path.items():
            address = address.replace(f"{{{name}}}", str(value))
        address = address.encode("utf-8", "replace").decode()
        query = {name: str(value).encode("utf-8", "replace") for name, value in query.items()}
        client = self.client
        client.raise_request_exception = False
        options = {"query_params": query} if query else {}
        answer = client.generic(operation.method.upper(), address, body, content_type=media_type, **options)
        told = f"{operation.method} {address} {query} {body[:300]!r}: {answer.status_code} {answer.content[:300]!r}"
        self.assertLess(answer.status_code, 500, told)
        if answer.status_code >= 400 and address.startswith("/api/") and answer["Content-Type"] == "application/json":
            self.assertTrue(answer.json()["sentence"], told)

    def test_what_the_document_describes_and_what_it_does_not(self):
        for operation in self.operations:
            for mode in (GenerationMode.POSITIVE, GenerationMode.NEGATIVE):
                with self.subTest(f"{operation.method} {operation.path} {mode.value}"), warnings.catch_warnings():
                    warnings.simplefilter("ignore")
                    strategy = operation.as_strategy(generation_mode=mode)
                    self.go_through(operation, strategy)

    def go_through(self, operation, strategy) -> None:
        @settings(
            max_examples=EACH, database=None, deadline=None, derandomize=True, suppress_health_check=list(HealthCheck)
        )
        @given(case=strategy, real=st.booleans())
        def each(case, real):
            path = dict(case.path_parameters or {})
            if real:
                path |= {name: value for name, value in self.known.items() if name in path}
            body = case.body if isinstance(case.body, dict | list) else {}
            form = "multipart" in (case.media_type or "")
            sent = json.dumps(body, default=str).encode()
            self.ask(operation, path, case.query or {}, sent, "application/json" if not form else case.media_type)

        each()

    def test_hostile_values_in_every_field(self):
        """One field after the other takes each hostile value, in a request that is otherwise of the right form."""
        for operation in self.operations:
            path = {p.name: self.known.get(p.name, "none") for p in operation.path_parameters}
            names = [p.name for p in operation.query]
            fields = self.fields_of(operation)
            with self.subTest(f"{operation.method} {operation.path}"):
                for value in HOSTILE:
                    for name in names:
                        self.ask(operation, path, {name: value}, b"", "application/json")
                    for name in path:
                        self.ask(operation, path | {name: f"{value}"[:200] or "x"}, {}, b"", "application/json")
                    for name in fields:
                        sent = json.dumps({**self.plain(fields), name: value}).encode()
                        self.ask(operation, path, {}, sent, "application/json")
                for raw in RAW if fields else ():
                    self.ask(operation, path, {}, raw, "application/json")

    def fields_of(self, operation) -> list[str]:
        """The names in the JSON body that the document describes."""
        described = self.document["paths"][operation.path][operation.method].get("requestBody", {"content": {}})
        body = described["content"].get("application/json")
        if body is None:
            return []
        name = body["schema"]["$ref"].rpartition("/")[2]
        return list(self.document["components"]["schemas"][name]["properties"])

    def plain(self, fields: list[str]) -> dict:
        told = {
            "based_on": int(self.known["revision"]),
            "steps": [],
            "to": "undo",
            "document": self.known["document"],
            "picture": "",
            "tab": "t",
            "number": 1,
            "coarse": False,
            "picks": [{"piece": "x"}],
            "pieces": ["x"],
            "x": 1.0,
            "y": 1.0,
            "jobs": [],
            "deleted": True,
            "name": "Square",
        }
        return {name: told[name] for name in fields if name in told}

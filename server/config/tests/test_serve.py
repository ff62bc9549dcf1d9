"""The server beside slow, half-open and greedy clients, on a socket of its own."""

import socket
import threading
import unittest
import urllib.request
from unittest import mock

import serve


def answering(environ, start):
    body = b"yes" if environ["REQUEST_METHOD"] == "GET" else environ["wsgi.input"].read()
    start("200 OK", [("Content-Length", str(len(body)))])
    return [body]


class Server(unittest.TestCase):
    def setUp(self):
        self.server = serve.server_of(answering, 2, listen="127.0.0.1:0")
        self.port = self.server.effective_port
        thread = threading.Thread(target=self.server.run, daemon=True)
        thread.start()
        self.addCleanup(thread.join, 30)
        self.addCleanup(self.server.close)
        self.addCleanup(self.server.task_dispatcher.shutdown)

    def connection(self) -> socket.socket:
        made = socket.create_connection(("127.0.0.1", self.port), 30)
        self.addCleanup(made.close)
        return made

    def answer_to(self, head: str, body: bytes = b"") -> bytes:
        """The first line of what comes back."""
        with self.connection() as client:
            client.sendall(head.replace("\n", "\r\n").encode() + b"\r\n\r\n" + body)
            return client.makefile("rb").readline()

    def test_answers_beside_hundreds_of_half_heads(self):
        for _ in range(300):
            self.connection().sendall(b"GET / HTTP/1.1\r\nHost: a\r\nX-Slow: ")
        with urllib.request.urlopen(f"http://127.0.0.1:{self.port}/", timeout=30) as answer:
            self.assertEqual(answer.read(), b"yes")

    def test_refuses_a_large_body_by_what_its_head_says(self):
        large = f"Host: a\nContent-Length: {serve.MOST_FORM + 1}"
        self.assertIn(b"413", self.answer_to(f"POST /api/jobs HTTP/1.1\n{large}"))
        plain = f"Host: a\nContent-Length: {serve.MOST_BODY + 1}"
        self.assertIn(b"413", self.answer_to(f"POST /api/jobs/x/head HTTP/1.1\n{plain}"))

    def test_refuses_a_body_that_says_nothing_of_its_size_once_it_has_grown(self):
        self.enterContext(mock.patch.object(serve, "MOST_BODY", 1000))
        chunk = b"400\r\n" + bytes(1024) + b"\r\n"
        head = "POST /api/jobs/x/head HTTP/1.1\nHost: a\nTransfer-Encoding: chunked"
        self.assertIn(b"413", self.answer_to(head, chunk * 2))

    def test_reads_what_is_small_enough(self):
        self.assertIn(b"200", self.answer_to("POST /api/jobs HTTP/1.1\nHost: a\nContent-Length: 3", b"abc"))

"""Questions asked of children: once for all who wait, with an end for each, and none left at work for nobody."""

from __future__ import annotations

import signal
import threading
import unittest
from concurrent.futures import ThreadPoolExecutor
from unittest import mock

from hakobu.errors import NotThere, TooMuch
from jobs import asking


class Slow:
    """A child that answers when it is let, or when it is ended."""

    made: list[Slow]

    def __init__(self) -> None:
        self.about, self.asked = "", []
        self.go, self.ended = threading.Event(), False
        self.process, self.code = self, -signal.SIGKILL
        self.answer = b'j"done"'
        self.made.append(self)

    def ask(self, question: bytes) -> bytes:
        self.asked.append(question)
        self.go.wait(60)
        if self.ended:
            raise EOFError
        return self.answer

    def kill(self) -> None:
        self.ended = True
        self.go.set()

    def end(self) -> int:
        return self.code


class Asking(unittest.TestCase):
    def setUp(self):
        Slow.made = []
        self.enterContext(mock.patch.object(asking, "_Child", Slow))
        self.enterContext(mock.patch.object(asking, "_ASKING", asking._Asking()))
        self.pool = self.enterContext(ThreadPoolExecutor(asking.MOST_WAITING + 1))

    def ask(self, about: str = "design", gone=lambda: False):
        return self.pool.submit(asking.asked, "look", [about], gone)

    def child(self) -> Slow:
        while not (Slow.made and Slow.made[0].asked):
            threading.Event().wait(0.01)
        return Slow.made[0]

    def waiting(self, count: int) -> None:
        while asking._ASKING._waiting < count:
            threading.Event().wait(0.01)

    def test_the_same_question_is_worked_out_once(self):
        asked = [self.ask() for _ in range(5)]
        self.waiting(5)
        self.child().go.set()
        self.assertEqual([one.result(60) for one in asked], ["done"] * 5)
        self.assertEqual([len(child.asked) for child in Slow.made], [1])

    def test_it_goes_on_while_anybody_waits_and_is_ended_when_nobody_does(self):
        left, all_left = threading.Event(), threading.Event()
        first, second = self.ask(gone=left.is_set), self.ask(gone=all_left.is_set)
        self.waiting(2)
        child = self.child()
        left.set()
        self.assertRaises(asking.Gone, first.result, 60)
        self.assertFalse(child.ended)
        all_left.set()
        self.assertRaises(asking.Gone, second.result, 60)
        self.assertTrue(child.ended)

    def test_what_reaches_a_limit_is_too_much(self):
        for code, word in ((-signal.SIGXCPU, "too long"), (1, "too much memory")):
            Slow.made.clear()
            asked = self.ask()
            child = self.child()
            child.code = code
            child.kill()
            with self.assertRaisesRegex(TooMuch, word):
                asked.result(60)

    def test_an_error_is_told_as_it_is(self):
        asked = self.ask()
        child = self.child()
        child.answer = b'e{"code": "not-there", "sentence": "It is gone."}'
        child.go.set()
        with self.assertRaisesRegex(NotThere, "It is gone."):
            asked.result(60)

    def test_more_than_can_wait_are_refused_at_once(self):
        asked = [self.ask(about=str(n)) for n in range(asking.MOST_WAITING)]
        self.waiting(asking.MOST_WAITING)
        self.assertRaises(asking.Busy, self.ask(about="one more").result, 60)
        while not all(one.done() for one in asked):
            for child in list(Slow.made):
                child.go.set()
            threading.Event().wait(0.01)
        self.assertEqual({one.result() for one in asked}, {"done"})

"""Work shared out among processors: all of it once, in order, however many there are."""

import threading
import unittest
from unittest import mock

import numpy as np
from hypothesis import given, settings
from hypothesis import strategies as st

from hakobu.geometry import parallel
from hakobu.geometry.parallel import parallel_map, run_concurrently, submit, work_queue


class SharedOut(unittest.TestCase):
    @given(st.lists(st.floats(0, 100), min_size=1, max_size=50), st.floats(0.1, 500), st.integers(1, 4))
    @settings(deadline=None)
    def test_parts_follow_each_other_from_the_first_to_the_last(self, cost, least, processors):
        with mock.patch.object(parallel, "processors", lambda: processors):
            parts = parallel_map(lambda a, b: (a, b), np.array(cost), least)
        self.assertEqual((parts[0][0], parts[-1][1]), (0, len(cost)))
        self.assertEqual([b for _, b in parts[:-1]], [a for a, _ in parts[1:]])
        self.assertTrue(all(a < b for a, b in parts))
        self.assertLessEqual(len(parts), processors)

    def test_what_is_little_stays_whole(self):
        self.assertEqual(parallel_map(lambda a, b: (a, b), np.ones(100), 1000.0), [(0, 100)])

    def test_parts_cost_about_as_much(self):
        cost = np.array([1.0] * 90 + [10.0] * 10)
        with mock.patch.object(parallel, "processors", lambda: 2):
            (a, b), (_, d) = parallel_map(lambda a, b: (a, b), cost, 1.0)
        self.assertAlmostEqual(cost[a:b].sum(), cost[b:d].sum(), delta=10)

    def test_an_error_in_a_part_is_told(self):
        def work(first: int, last: int) -> None:
            if last == 100:
                raise ValueError("the last part")

        with mock.patch.object(parallel, "processors", lambda: 2), self.assertRaisesRegex(ValueError, "the last part"):
            parallel_map(work, np.ones(100), 1.0)


class InTurns(unittest.TestCase):
    @given(st.integers(0, 60), st.integers(1, 9), st.integers(1, 4))
    @settings(deadline=None)
    def test_each_is_done_once(self, count, step, processors):
        done = np.zeros(count, int)

        def work(first: int, last: int) -> None:
            done[first:last] += 1

        with mock.patch.object(parallel, "processors", lambda: processors):
            work_queue(work, count, step)
        self.assertTrue((done == 1).all())


class Threads(unittest.TestCase):
    def test_several_works_are_at_work_at_once(self):
        meet = threading.Barrier(2, timeout=10)
        with mock.patch.object(parallel, "processors", lambda: 2):
            self.assertEqual(len(run_concurrently([meet.wait, meet.wait])), 2)

    def test_with_one_processor_one_comes_after_the_other(self):
        order: list[int] = []
        with mock.patch.object(parallel, "processors", lambda: 1):
            run_concurrently([lambda: order.append(1), lambda: order.append(2)])
        self.assertEqual(order, [1, 2])

    def test_what_is_begun_goes_on_meanwhile(self):
        go = threading.Event()
        result = submit(lambda: go.wait(10))
        go.set()
        self.assertTrue(result())

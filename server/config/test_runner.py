"""Django's runner, which also counts for ./test and times the classes of tests."""

import json
import os
import sys
import time
import unittest
import unittest.util
from pathlib import Path

from django.test.runner import DiscoverRunner, ParallelTestSuite, RemoteTestRunner

# The stand-in machines are a program of their own, beside the server; only tests load them.
sys.path.append(str(Path(__file__).resolve().parents[2]))


class TimedRemoteRunner(RemoteTestRunner):
    """Sends the seconds that a class took, its fixtures included, along with the results of its tests."""

    def run(self, test):
        begin = time.perf_counter()
        result = super().run(test)
        if test.countTestCases():
            result.events.append(("add_class_seconds", 0, time.perf_counter() - begin))
        return result


class TimedParallelSuite(ParallelTestSuite):
    """Begins with the classes that took longest last time, so that no process is left with one at the end."""

    runner_class = TimedRemoteRunner

    def __init__(self, subsuites, *arguments, **options):
        path = Path(os.environ.get("HAKOBU_TEST_SECONDS", ""))
        known = json.loads(path.read_text()) if path.is_file() else {}
        ordered = sorted(subsuites, key=lambda suite: -known.get(name_of(next(iter(suite))), 0.0))  # pyright: ignore[reportArgumentType, reportCallIssue]
        super().__init__(ordered, *arguments, **options)


def name_of(test: unittest.TestCase) -> str:
    return unittest.util.strclass(test.__class__)


class TimedResult(unittest.TextTestResult):
    """A result with the seconds of each class."""

    def __init__(self, *arguments, **options):
        super().__init__(*arguments, **options)
        self.class_seconds: dict[str, float] = {}

    def add_class_seconds(self, test, seconds):
        self.class_seconds[name_of(test)] = seconds


class CountingRunner(DiscoverRunner):
    parallel_test_suite = TimedParallelSuite

    def get_resultclass(self):
        return super().get_resultclass() or TimedResult

    def suite_result(self, suite, result, **kwargs):
        failed = len(result.failures) + len(result.errors) + len(result.unexpectedSuccesses)
        skipped = len(result.skipped)
        counts = {"passed": result.testsRun - failed - skipped, "failed": failed, "skipped": skipped}
        counts["class_seconds"] = getattr(result, "class_seconds", {})  # pyright: ignore[reportArgumentType]
        if path := os.environ.get("HAKOBU_TEST_COUNTS"):
            Path(path).write_text(json.dumps(counts))
        return super().suite_result(suite, result, **kwargs)

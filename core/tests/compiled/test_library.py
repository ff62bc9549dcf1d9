"""The kernel library: checks of arguments, and the error while it is not built."""

import fcntl
import json
import os
import subprocess
import sys
import tempfile
import unittest
from pathlib import Path

import numpy as np

from hakobu.compiled import sources
from hakobu.tracing.corners.kernels.blurred_ends import ink_at, prior_sigma
from hakobu.tracing.edges.kernels.halving import halve


class Arguments(unittest.TestCase):
    """A kernel reads and writes memory by its signature: what does not fit must never reach it."""

    grey, levels = np.full((4, 6), 0.25, np.float32), np.array([0.5, 0.0, 1.0])

    def test_takes_what_its_signature_says(self):
        self.assertEqual(ink_at(self.grey, 1, 2, self.levels), 0.75)

    def test_takes_a_read_only_array_where_it_only_reads(self):
        grey = self.grey.copy()
        grey.flags.writeable = False
        self.assertEqual(ink_at(grey, 1, 2, self.levels), 0.75)

    def test_refuses_arrays_of_another_type_order_or_number_of_dimensions(self):
        for wrong in (
            self.grey.astype(float),
            self.grey.view(np.int32),
            np.asfortranarray(self.grey),
            self.grey[:, ::2],
            self.grey[0],
            self.grey[None],
            [[0.25]],
            None,
        ):
            with self.subTest(type(wrong)), self.assertRaisesRegex(TypeError, "array of float32 in 2 dimensions"):
                ink_at(wrong, 0, 0, self.levels)

    def test_refuses_to_write_to_a_read_only_array(self):
        known = np.zeros(3)
        known.flags.writeable = False
        with self.assertRaisesRegex(TypeError, "writable"):
            prior_sigma(np.ones(9), 0.1, known)
        self.assertFalse(known.any())

    def test_picks_its_form_by_the_type_of_an_array(self):
        for dtype in (np.float32, np.uint8):
            small = np.zeros((1, 2), np.float32)
            halve(np.array([[1, 1, 2, 2], [3, 3, 4, 4]], dtype), small, 0.25, 0, 1)
            self.assertEqual(small.tolist(), [[2.0, 3.0]])
        with self.assertRaises(TypeError):
            halve(np.zeros((2, 4)), small, 0.25, 0, 1)

    def test_a_refused_argument_leaks_no_reference(self):
        wrong = self.grey.astype(float)
        before = sys.getrefcount(wrong)
        for _ in range(10):
            with self.assertRaises(TypeError):
                ink_at(wrong, 0, 0, self.levels)
        self.assertEqual(sys.getrefcount(wrong), before)


class Process(unittest.TestCase):
    def run_python(self, code: str, **environment: str) -> subprocess.CompletedProcess:
        return subprocess.run(
            [sys.executable, "-c", code],
            check=False,
            cwd=sources.CORE.parent,
            env=os.environ | environment,
            capture_output=True,
            text=True,
        )

    def test_running_kernels_loads_no_compiler(self):
        code = (
            "import sys, hakobu.pipeline, hakobu.geometry.kernels.curves as c; c.length(3.0, 4.0);"
            "sys.exit(bool({'numba', 'llvmlite'} & set(sys.modules)))"
        )
        self.assertEqual(self.run_python(code).returncode, 0)

    def test_what_needs_no_kernel_loads_none(self):
        code = "import sys, hakobu.cli.info, hakobu.cli.mend; sys.exit('hakobu_kernels' in sys.modules)"
        self.assertEqual(self.run_python(code).returncode, 0)

    def test_says_what_to_do_while_nothing_is_built_and_how_far_a_build_is(self):
        code = (
            "from hakobu.errors import NotCompiled\n"
            "try: import hakobu.geometry.kernels.curves\n"
            "except NotCompiled as error: print(error.sentence)"
        )
        with tempfile.TemporaryDirectory() as folder:
            said = self.run_python(code, HAKOBU_CACHE=folder).stdout
            self.assertIn("python -m hakobu.compiled.build", said)
            cache = Path(folder) / "hakobu" / "kernels"
            cache.mkdir(parents=True)
            (cache / "progress.json").write_text(json.dumps({"done": 31, "of": 80}))
            with open(cache / "lock", "w") as lock:
                fcntl.flock(lock, fcntl.LOCK_EX)
                self.assertIn("31 of 80 parts are compiled", self.run_python(code, HAKOBU_CACHE=folder).stdout)
            # What was ended in the middle is not waited for.
            self.assertIn("python -m hakobu.compiled.build", self.run_python(code, HAKOBU_CACHE=folder).stdout)

"""The command line run in the process of the tests: what it prints and its exit code, without the time that a process
takes to start."""

from __future__ import annotations

import io
import subprocess
import sys
import traceback
from unittest import mock

from hakobu.cli import files, main


def here(*words, stdin: bytes = b"") -> subprocess.CompletedProcess:
    out, said = (io.TextIOWrapper(io.BytesIO(), "utf-8", write_through=True) for _ in range(2))
    given = io.TextIOWrapper(io.BytesIO(stdin), "utf-8")
    # A process reads lists once; the next one may find others under the same name.
    files.lists_from.cache_clear()
    with mock.patch.multiple(sys, stdout=out, stderr=said, stdin=given):
        try:
            code = main([str(word) for word in words])
        except SystemExit as ended:
            code = ended.code if isinstance(ended.code, int) else 1
        except Exception:
            traceback.print_exc()
            code = 1
    return subprocess.CompletedProcess(words, code, out.buffer.getvalue(), said.buffer.getvalue())

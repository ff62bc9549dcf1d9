"""What a process that reads untrusted files cannot do any more. Where the system does not offer a way, its test says so."""

import os
import subprocess
import sys
import unittest
from pathlib import Path

CORE = str(Path(__file__).parents[2])
#: Each line is tried when the process is shut in and sealed, and says what came of it.
TRIED = """
import os, socket, sys
from hakobu.compiled.sources import cache_folder
from hakobu.formats import confined
confined.shut_in(sys.argv[1], str(cache_folder()))
confined.seal()
def tried(name, work):
    try:
        work()
        print(name, "done")
    except (OSError, PermissionError) as error:
        print(name, "refused")
tried("parent", lambda: open(f"/proc/{os.getppid()}/environ").read())
tried("passwords", lambda: open("/etc/passwd").read())
tried("home", lambda: os.listdir(sys.argv[2]))
tried("write", lambda: open(sys.argv[1] + "/new-file", "w"))
tried("network", lambda: socket.socket(socket.AF_INET, socket.SOCK_STREAM))
tried("program", lambda: os.execv("/bin/true", ["true"]))
tried("library", lambda: __import__("ezdxf"))
tried("kernels", lambda: __import__("hakobu.compiled.library").compiled.library.load())
tried("own", lambda: open(sys.argv[1] + "/hakobu/__init__.py").read())
"""


class Confined(unittest.TestCase):
    def test_only_its_own_files_and_nobody_else(self):
        here = str(Path(__file__).parent)
        environment = {**os.environ, "PYTHONPATH": CORE}
        made = subprocess.run(
            [sys.executable, "-c", TRIED, CORE, str(Path(here).parents[3])],
            env=environment,
            capture_output=True,
            text=True,
        )
        found = dict(line.split() for line in made.stdout.splitlines())
        for name in ("library", "kernels", "own"):
            self.assertEqual(found.get(name), "done", (name, made.stderr))
        for name in ("network", "program"):
            self.assertEqual(found[name], "refused", name)
        if not Path("/sys/kernel/security/landlock").exists() and found["passwords"] == "done":
            self.skipTest("this kernel has no Landlock: files are not shut off")
        for name in ("parent", "passwords", "home", "write"):
            self.assertEqual(found[name], "refused", name)

"""`./start` after anything that may have ended hard: it comes up the first time, at the address it had. Only with
`./test --long`: it starts a checkout of its own, with the packages of this one."""

import os
import shutil
import signal
import subprocess
import tempfile
import unittest
import urllib.request
from pathlib import Path

ROOT = Path(__file__).parents[3]
LONG = bool(os.environ.get("HAKOBU_LONG"))
#: What a checkout has installed and built, which takes minutes; linked, not copied.
BUILT = (".venv", "web/node_modules", "web/dist", ".run/cache")


def load_tests(loader, tests, pattern):
    return tests if LONG else unittest.TestSuite()


class Started(unittest.TestCase):
    @classmethod
    def setUpClass(cls):
        folder = Path(cls.enterClassContext(tempfile.TemporaryDirectory()))
        # The database and the programs run as users of their own.
        folder.chmod(0o755)
        cls.place = folder / "checkout"
        subprocess.run(["git", "clone", "-q", ROOT, cls.place], check=True)
        (cls.place / ".run").mkdir()
        for name in BUILT:
            shutil.copytree(ROOT / name, cls.place / name, symlinks=True, copy_function=os.link)
        for done in (ROOT / ".run").glob("*.done"):
            shutil.copy(done, cls.place / ".run")
        cls.environment = {k: v for k, v in os.environ.items() if not k.startswith(("PG", "HAKOBU"))}
        cls.addClassCleanup(cls.run_start, "--stop")
        cls.run_start()
        cls.port = cls.read("app.port")

    @classmethod
    def run_start(cls, *arguments: str) -> subprocess.CompletedProcess:
        command = [cls.place / "start", *arguments]
        return subprocess.run(command, env=cls.environment, capture_output=True, text=True, timeout=300)

    @classmethod
    def read(cls, name: str) -> str:
        return (cls.place / ".run" / name).read_text().split("\n")[0]

    def kill(self, *words: str) -> None:
        """Ends what runs in the checkout and has one of the words in its command line."""
        for folder in Path("/proc").glob("[0-9]*"):
            try:
                at, command = os.readlink(folder / "cwd"), (folder / "cmdline").read_bytes().decode()
            except OSError:
                continue
            if at.startswith(str(self.place)) and any(word in command for word in words):
                os.kill(int(folder.name), signal.SIGKILL)

    def comes_up(self) -> None:
        made = self.run_start()
        self.assertEqual(made.returncode, 0, made.stderr)
        self.assertEqual(self.read("app.port"), self.port, made.stderr)
        with urllib.request.urlopen(f"http://127.0.0.1:{self.port}/api/jobs", timeout=60) as answer:
            self.assertEqual(answer.status, 200)

    def test_after_the_databases_first_process_was_killed(self):
        os.kill(int(self.read("postgres/postmaster.pid")), signal.SIGKILL)
        self.comes_up()

    def test_after_the_keeper_of_the_application_was_killed(self):
        self.kill("programs/app.pid")
        self.comes_up()

    def test_after_the_application_was_killed_with_its_keeper(self):
        self.kill("programs/app.pid", "serve.py\0app")
        self.comes_up()

    def test_after_everything_was_killed(self):
        self.kill("keep.py", "serve.py", "procrastinate", "work_child", "answer_child", "nursery", "postgres")
        self.comes_up()

"""Machines that run in a thread of the tests, and a line to them."""

from __future__ import annotations

import asyncio
import socket
import threading
import time
from collections.abc import Callable
from pathlib import Path

from hakobu.machines.sending import Halt, LineLost
from simulator.controller import Controller
from simulator.machine import Build
from simulator.plotter import Plotter
from simulator.serving import Served


class Running:
    """A plotter or a controller on a port of its own."""

    def __init__(self, kind: str, build: Build, capacity: int = 1024) -> None:
        self.kind, self.build, self.capacity = kind, build, capacity
        self.loop = asyncio.new_event_loop()
        self._ready = threading.Event()
        self._thread = threading.Thread(target=self._run, daemon=True)
        self._thread.start()
        self._ready.wait(5)

    def _run(self) -> None:
        asyncio.set_event_loop(self.loop)
        self.loop.run_until_complete(self._begin())
        self._ready.set()
        self.loop.run_forever()
        self.loop.close()

    async def _begin(self) -> None:
        machine = Plotter(self.build, self.capacity) if self.kind == "hpgl" else Controller(self.build)
        self.served = Served(self.kind, machine, Path("/tmp"))
        self.server = await self.served.serve(0)
        self.port = self.server.sockets[0].getsockname()[1]

    def ask(self, **what) -> dict:
        """In the machine's own thread."""
        return asyncio.run_coroutine_threadsafe(self._asked(what), self.loop).result(10)

    def until(self, holds: Callable[[dict], bool], seconds: float = 20.0) -> dict:
        """The machine's state, as soon as it is so."""
        end = time.monotonic() + seconds
        while not holds(state := self.ask()):
            if time.monotonic() > end:
                raise AssertionError(f"The machine did not come to that in {seconds:g} s: {state}")
            time.sleep(0.005)
        return state

    def alone(self) -> None:
        """Waits until its line is free."""
        self.until(lambda state: not state["connected"])

    async def _asked(self, what: dict) -> dict:
        return self.served.asked(what)

    def line(self) -> Tcp:
        return Tcp(self.port)

    def stop(self) -> None:
        if self.loop.is_closed():
            return
        asyncio.run_coroutine_threadsafe(self._end(), self.loop)
        self._thread.join(5)

    async def _end(self) -> None:
        self.server.close()
        for task in asyncio.all_tasks() - {asyncio.current_task()}:
            task.cancel()
        self.loop.call_soon(self.loop.stop)


class Tcp:
    """A line, as senders want it. after: it is lost when so many bytes were written."""

    def __init__(self, port: int, after: int = -1) -> None:
        self.socket, self.after = socket.create_connection(("127.0.0.1", port), 5), after
        self.written = 0

    def write(self, data: bytes) -> None:
        if 0 <= self.after < self.written + len(data):
            try:
                self.socket.sendall(data[: max(self.after - self.written, 0)])
            finally:
                self.close()
            raise LineLost
        try:
            self.socket.sendall(data)
        except OSError as error:
            raise LineLost from error
        self.written += len(data)

    def read(self, seconds: float) -> bytes:
        self.socket.settimeout(max(seconds, 1e-4))
        try:
            data = self.socket.recv(65536)
        except TimeoutError:
            return b""
        except OSError as error:
            raise LineLost from error
        if not data:
            raise LineLost
        return data

    def close(self) -> None:
        self.socket.close()


def going_on(_: int) -> Halt:
    return Halt.NO


class Heard:
    """Hears whether the machine has the job, as whoever keeps that does."""

    def __init__(self) -> None:
        self.begun, self.done = False, 0

    def __call__(self, done: int) -> Halt:
        self.begun, self.done = True, done
        return Halt.NO


Report = Callable[[int], Halt]

"""The machines on loopback TCP, and a port by which they are watched and put out of order."""

from __future__ import annotations

import asyncio
import contextlib
import json
from dataclasses import dataclass, field
from pathlib import Path

from .controller import Controller
from .machine import Machine
from .plotter import Plotter

#: A machine has one line; a second one is told so.
BUSY = b"busy\r\n"


@dataclass
class Faults:
    """What goes wrong. drop_after: the line is cut off after so many bytes more. slow: bytes a second, 0: as they come.
    garbage: it answers nonsense. silent: it answers nothing."""

    drop_after: int = -1
    slow: int = 0
    garbage: bool = False
    silent: bool = False


@dataclass
class Served:
    name: str
    machine: Plotter | Controller
    folder: Path
    faults: Faults = field(default_factory=Faults)
    connected: bool = False

    async def serve(self, port: int) -> asyncio.Server:
        asyncio.get_running_loop().create_task(self.machine.run())
        asyncio.get_running_loop().create_task(self._feeding())
        return await asyncio.start_server(self._line, "127.0.0.1", port)

    async def _line(self, reader: asyncio.StreamReader, writer: asyncio.StreamWriter) -> None:
        if self.connected:
            writer.write(BUSY)
            await writer.drain()
            writer.close()
            return
        self.connected = True

        def say(data: bytes) -> None:
            if not self.faults.silent and not writer.is_closing():
                writer.write(b"\x00?\xff#" if self.faults.garbage else data)

        self.machine.output = say
        try:
            while data := await reader.read(256 if self.faults.slow else 4096):
                if 0 <= self.faults.drop_after < len(data):
                    self.machine.receive(data[: self.faults.drop_after])
                    self.faults.drop_after = -1
                    writer.transport.abort()
                    break
                if self.faults.drop_after >= 0:
                    self.faults.drop_after -= len(data)
                if self.faults.slow:
                    await asyncio.sleep(len(data) / self.faults.slow)
                self.machine.receive(data)
                # Others have their turn while much comes in.
                await asyncio.sleep(0)
        except (ConnectionError, OSError, asyncio.CancelledError):
            pass
        finally:
            self.connected = False
            self.machine.output = lambda _: None
            self.machine.cut_off()
            writer.close()

    async def _feeding(self) -> None:
        """Gives the machine what it can take, an instruction or a line at a time."""
        machine = self.machine
        while True:
            await machine.room.wait()
            machine.fed.clear()
            if machine.paused or not machine.take():
                await machine.fed.wait()

    # -- watched and put out of order ------------------------------------------------------------------------------
    def state(self) -> dict:
        machine: Machine = self.machine
        return {
            "name": self.name,
            "strokes": len(machine.paper.strokes),
            "clock": round(machine.clock, 4),
            "at": [round(machine.axes.x, 4), round(machine.axes.y, 4)],
            "down": machine.down,
            "idle": machine.idle,
            "paused": machine.paused,
            "error": machine.error,
            "connected": self.connected,
        }

    def asked(self, request: dict) -> dict:
        """What is asked on the watching port: state, paper, clear, faults, pause, resume, sheet."""
        machine = self.machine
        for key, value in request.items():
            if key in ("drop_after", "slow", "garbage", "silent"):
                setattr(self.faults, key, value)
            elif key == "no_sheet":
                machine.no_sheet = bool(value)
            elif key == "paused":
                machine.paused = bool(value)
                machine.wake()
            elif key == "clear":
                machine.paper.clear()
                machine.error, machine.clock = "", 0.0
            elif key == "write":
                machine.paper.write(self.folder, str(value))
        if request.get("strokes"):
            return {"strokes": [[s.tool, s.how, s.points, s.begun, s.ended] for s in machine.paper.strokes]}
        return self.state()


async def watch(served: dict[str, Served], port: int) -> asyncio.Server:
    """A port on which each line is a request as JSON, {"machine": NAME, ...}, and is answered so."""

    async def line(reader: asyncio.StreamReader, writer: asyncio.StreamWriter) -> None:
        with contextlib.suppress(ConnectionError, ValueError):
            while text := await reader.readline():
                request = json.loads(text)
                one = served.get(request.pop("machine", ""))
                answer = one.asked(request) if one else {"machines": sorted(served)}
                writer.write(json.dumps(answer).encode() + b"\n")
                await writer.drain()
        writer.close()

    return await asyncio.start_server(line, "127.0.0.1", port, limit=2**20)

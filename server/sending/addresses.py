"""Lines to machines: TCP, serial, or a watched folder; and which addresses are taken."""

from __future__ import annotations

import contextlib
import ipaddress
import os
import re
import socket
from collections.abc import Iterator
from pathlib import Path

from hakobu.errors import BadRequest, MachineTrouble
from hakobu.machines.sending import Line, LineLost

#: How long a machine may take to be reached, in seconds.
REACH_S = 3.0
BAUD = 9600
#: By kind, what an address looks like: "tcp:10.0.0.7:9100", "serial:/dev/ttyUSB0", "folder:cutter", "stand-in:knife".
FORMS = {
    "tcp": re.compile(r"([\w.:-]+):(\d{1,5})"),
    "serial": re.compile(r"(/dev/tty[\w.-]+)(?:,(\d{3,7}))?"),
    "folder": re.compile(r"([\w-]{1,60})"),
    "stand-in": re.compile(r"(knife|laser)"),
}
#: The stand-ins' ports, as the start of the programs chose them.
STAND_INS = {"knife": 0, "laser": 1}
USUAL_PORTS = "8791 8792 8793"


def stand_in_ports() -> list[int]:
    return [int(port) for port in os.environ.get("HAKOBU_STAND_INS", USUAL_PORTS).split()]


def parts_of(address: str) -> tuple[str, re.Match]:
    """The kind of an address and its parts. Raises BadRequest, naming what is taken."""
    kind, _, rest = address.partition(":")
    match = FORMS[kind].fullmatch(rest) if kind in FORMS else None
    if match is None:
        forms = "tcp:10.0.0.7:9100, serial:/dev/ttyUSB0,9600 or folder:NAME"
        raise BadRequest(f'"{address}" is no address of a machine: it is one like {forms}.')
    if kind == "tcp":
        _check_host(match[1])
    return kind, match


def _check_host(host: str) -> None:
    """Machines stand in the same house: files are sent nowhere else."""
    with contextlib.suppress(ValueError):
        if not ipaddress.ip_address("127.0.0.1" if host == "localhost" else host).is_private:
            raise BadRequest(f"{host} is not in this network: a machine is reached at an address of its own network.")
        return
    raise BadRequest(f'"{host}" is no address in numbers, as 10.0.0.7: a machine is reached by its own.')


def is_folder(address: str) -> bool:
    return parts_of(address)[0] == "folder"


def folder_of(address: str) -> Path:
    """The watched folder of an address, made where it is not there."""
    base = Path(os.environ.get("HAKOBU_WATCHED") or Path.home() / "hakobu")
    folder = base / parts_of(address)[1][1]
    folder.mkdir(parents=True, exist_ok=True)
    return folder


@contextlib.contextmanager
def opened(address: str) -> Iterator[Line]:
    """A line to a machine. Raises MachineTrouble where there is none."""
    kind, match = parts_of(address)
    line = _serial(match) if kind == "serial" else _tcp(kind, match)
    try:
        yield line
    finally:
        line.close()


def _tcp(kind: str, match: re.Match) -> TcpLine:
    if kind == "stand-in":
        host, port = "127.0.0.1", stand_in_ports()[STAND_INS[match[1]]]
    else:
        host, port = match[1], int(match[2])
    try:
        return TcpLine(socket.create_connection((host, port), REACH_S))
    except OSError as error:
        said = f"No machine answers at {host}, port {port}: see that it is on, its cable in, and the address right."
        raise MachineTrouble(said) from error


def _serial(match: re.Match) -> SerialLine:
    import serial

    try:
        return SerialLine(serial.Serial(match[1], int(match[2] or BAUD), timeout=0, write_timeout=REACH_S))
    except (OSError, ValueError) as error:
        said = f"No machine can be reached at {match[1]}: see that its cable is in and that this program may use it."
        raise MachineTrouble(said) from error


class TcpLine:
    def __init__(self, connection: socket.socket) -> None:
        self._socket = connection
        connection.setsockopt(socket.IPPROTO_TCP, socket.TCP_NODELAY, 1)

    def write(self, data: bytes) -> None:
        self._socket.settimeout(REACH_S * 10)
        try:
            self._socket.sendall(data)
        except OSError as error:
            raise LineLost from error

    def read(self, seconds: float) -> bytes:
        self._socket.settimeout(max(seconds, 1e-4))
        try:
            data = self._socket.recv(65536)
        except TimeoutError:
            return b""
        except OSError as error:
            raise LineLost from error
        if not data:
            raise LineLost
        return data

    def close(self) -> None:
        self._socket.close()


class SerialLine:
    def __init__(self, port) -> None:
        self._port = port

    def write(self, data: bytes) -> None:
        try:
            self._port.write(data)
        except OSError as error:
            raise LineLost from error

    def read(self, seconds: float) -> bytes:
        try:
            self._port.timeout = seconds
            first = self._port.read(1)
            return first + self._port.read(self._port.in_waiting)
        except OSError as error:
            raise LineLost from error

    def close(self) -> None:
        self._port.close()

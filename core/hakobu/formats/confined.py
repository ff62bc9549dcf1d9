"""What a process that reads untrusted files gives up for good, where the system allows it: the network, all files but
those that Python and its libraries consist of, other processes, and starting any program.

Sources: the manual pages unshare(2), landlock(7), seccomp(2); the numbers are those of the kernel's headers.
"""

from __future__ import annotations

import ctypes
import os
import platform
import struct
import sys

_LIBRARY = ctypes.CDLL(None, use_errno=True)
#: unshare(2): namespaces of users and of the network.
_NEW_USER, _NEW_NET = 0x10000000, 0x40000000
#: prctl(2).
_SECCOMP, _NO_NEW_PRIVILEGES = 22, 38
#: landlock(7): its three calls, the same on all machines; what can be ruled, and what is allowed.
_CREATE_RULESET, _ADD_RULE, _RESTRICT_SELF, _BENEATH = 444, 445, 446, 1
_ALL_ACCESS, _EXECUTE, _WRITE_FILE, _READ_FILE, _READ_DIR = 0x1FFF, 1, 2, 4, 8
#: What libraries read beside themselves.
_READABLE = (
    *("/usr", "/lib", "/lib64", "/etc/fonts", "/etc/ld.so.cache", "/etc/localtime"),
    *("/sys/devices/system/cpu", "/proc/cpuinfo"),
)
_DEVICES = ("/dev/null", "/dev/urandom")
#: seccomp(2): by machine, its number for an audit, and the calls that are refused: socket, connect, ptrace,
#: process_vm_readv, process_vm_writev, execve, execveat, kill, io_uring_setup.
_MACHINES = {
    "x86_64": (0xC000003E, (41, 42, 101, 310, 311, 59, 322, 62, 425)),
    "aarch64": (0xC00000B7, (198, 203, 117, 270, 271, 221, 281, 129, 425)),
}
_ALLOW, _REFUSE = 0x7FFF0000, 0x00050000 | 1


def shut_in(*readable: str) -> None:
    """No network, and of all files only those of Python, of the system's libraries, and in the folders named. Holds for
    all processes begun from here on. What the system does not offer is passed over: limits on memory and time hold
    without it."""
    _LIBRARY.unshare(_NEW_USER | _NEW_NET)
    if _LIBRARY.prctl(_NO_NEW_PRIVILEGES, 1, 0, 0, 0):
        return
    handled = ctypes.create_string_buffer(struct.pack("Q", _ALL_ACCESS))
    rules = _LIBRARY.syscall(_CREATE_RULESET, handled, ctypes.c_size_t(8), 0)
    if rules < 0:
        return
    try:
        for path in {sys.prefix, sys.base_prefix, *_READABLE, *readable}:
            _allow(rules, path, _READ_FILE | _READ_DIR | _EXECUTE)
        for path in _DEVICES:
            _allow(rules, path, _READ_FILE | _WRITE_FILE)
        _LIBRARY.syscall(_RESTRICT_SELF, rules, 0)
    finally:
        os.close(rules)


def _allow(rules: int, path: str, access: int) -> None:
    try:
        opened = os.open(path, os.O_PATH | os.O_CLOEXEC)
    except OSError:
        return
    if not os.path.isdir(path):
        access &= _READ_FILE | _WRITE_FILE | _EXECUTE
    rule = ctypes.create_string_buffer(struct.pack("=Qi", access, opened))
    _LIBRARY.syscall(_ADD_RULE, rules, _BENEATH, rule, 0)
    os.close(opened)


def seal() -> None:
    """The calls by which a process reaches others, or becomes another program, are refused to this one from now on."""
    audit, refused = _MACHINES.get(platform.machine(), (0, ()))
    if not refused or _LIBRARY.prctl(_NO_NEW_PRIVILEGES, 1, 0, 0, 0):
        return

    def line(code: int, then: int, otherwise: int, value: int) -> bytes:
        return struct.pack("HBBI", code, then, otherwise, value)

    load, equal, give = 0x20, 0x15, 0x06
    # The machine, then the number of the call, against each that is refused.
    program = [line(load, 0, 0, 4), line(equal, 1, 0, audit), line(give, 0, 0, _REFUSE), line(load, 0, 0, 0)]
    for n, call in enumerate(refused):
        program.append(line(equal, len(refused) - n, 0, call))
    program += [line(give, 0, 0, _ALLOW), line(give, 0, 0, _REFUSE)]
    filters = ctypes.create_string_buffer(b"".join(program))
    told = ctypes.create_string_buffer(struct.pack("HxxxxxxQ", len(program), ctypes.addressof(filters)))
    _LIBRARY.prctl(_SECCOMP, 2, told, 0, 0)

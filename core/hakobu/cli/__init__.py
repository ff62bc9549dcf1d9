"""The command line: COMMANDS, a line each. Exit codes: 0 done, 1 findings or a failed proof, 2 cannot be done."""

from __future__ import annotations

import argparse
import os
import sys
from importlib import import_module

from ..children import CHILDREN

#: name, what it does; the module of that name adds its options and runs it. Modules are loaded only when asked for.
COMMANDS: tuple[tuple[str, str], ...] = (
    ("convert", "read a file, write it as another"),
    ("info", "size, layers, pieces, nodes, and what was not understood"),
    ("check", "find what would spoil the cut"),
    ("mend", "take the mends"),
    ("trace", "find the lines of a picture"),
    ("do", "one step on a file"),
    ("words", "set words as outlines"),
    ("faces", "list the faces there are, or judge them by words"),
    ("sheets", "lay a design on sheets of its materials, and write a file for each"),
    ("assembly", "write a page that numbers the pieces of a design, layer by layer"),
    ("operations", "list what steps there are, or the parameters of one"),
    ("proof", "read a machine file back and compare it with its design"),
    ("figures", "measure, each figure beside the plain library"),
)

#: Commands that read a file.
READING = {"convert", "info", "check", "mend", "trace", "do", "words", "proof", "assembly", "sheets"}


def main(arguments: list[str] | None = None) -> int:
    arguments = sys.argv[1:] if arguments is None else arguments
    parser = argparse.ArgumentParser(prog="hakobu", description="Gets designs ready to cut.")
    commands = parser.add_subparsers(dest="command", required=True, metavar="COMMAND")
    wanted = next((word for word in arguments if not word.startswith("-")), None)
    if wanted in READING and not {"-h", "--help"} & set(arguments):
        # On its way while this process still loads what it needs.
        CHILDREN.keep_ready()
    for name, help_ in COMMANDS:
        command = commands.add_parser(name, help=help_, description=f"{help_[0].upper()}{help_[1:]}.")
        if name == wanted:
            module = import_module(f".{name}", __name__)
            module.add_options(command)
            command.set_defaults(run=module.run)
    options = parser.parse_args(arguments)
    return _guarded(options)


def _guarded(options: argparse.Namespace) -> int:
    """Runs a command; every error leaves as one sentence."""
    # Loaded only here, so that help comes at once.
    from ..errors import HakobuError

    try:
        code = options.run(options)
        sys.stdout.flush()
        return code
    except HakobuError as error:
        print(f"hakobu: {error.sentence}", file=sys.stderr)
        return error.exit_code
    except BrokenPipeError:
        # Whoever read our output has seen enough; nothing more can be said to them.
        os.dup2(os.open(os.devnull, os.O_WRONLY), sys.stdout.fileno())
        return 0
    except KeyboardInterrupt:
        print("hakobu: stopped; nothing was written.", file=sys.stderr)
        return 2

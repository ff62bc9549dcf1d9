"""python -m simulator: the two machines of the demo, until it is ended."""

from __future__ import annotations

import argparse
import asyncio
from pathlib import Path

from .controller import Controller
from .machine import Build
from .plotter import Plotter
from .serving import Served, watch

PORTS = (8791, 8792, 8793)


async def run(ports: tuple[int, int, int], folder: Path, pace: float) -> None:
    knife = Build(width=600.0, height=2000.0, acceleration=4000.0, speed=300.0, travel=600.0, pace=pace)
    laser = Build(width=600.0, height=400.0, acceleration=3000.0, speed=20.0, travel=300.0, lift=0.01, pace=pace)
    served = {
        "knife": Served("knife", Plotter(knife), folder),
        "laser": Served("laser", Controller(laser), folder),
    }
    servers = [await one.serve(port) for one, port in zip(served.values(), ports[:2], strict=True)]
    servers.append(await watch(served, ports[2]))
    print("ready", flush=True)
    await asyncio.gather(*(server.serve_forever() for server in servers))


def main() -> None:
    parser = argparse.ArgumentParser(description=__doc__)
    parser.add_argument("--ports", nargs=3, type=int, default=PORTS, metavar=("KNIFE", "LASER", "WATCH"))
    parser.add_argument("--folder", type=Path, default=Path("simulated"), help="where sheets are drawn")
    parser.add_argument("--pace", type=float, default=1.0, help="times as fast as a real one; 0: at once")
    options = parser.parse_args()
    asyncio.run(run(tuple(options.ports), options.folder, options.pace))


if __name__ == "__main__":
    main()

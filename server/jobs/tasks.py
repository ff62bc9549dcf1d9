"""What the worker does: each piece of work in a child process, which can be ended; and looking after lost work."""

from __future__ import annotations

from procrastinate import RetryStrategy
from procrastinate.contrib.django import app
from procrastinate.exceptions import JobAborted

from . import runs
from .children import CHILDREN, ChildLost

#: How often a worker looks whether its work is still wanted.
LOOK_SECONDS = 0.2
#: After so many looks it is seen whether anybody still waits; seconds of work that a run may take.
LOOKS_BETWEEN, MOST_SECONDS = 25, 600.0
#: A worker that has not said for so long that it lives is taken to be gone.
SILENT_SECONDS = 10


@app.task(name=runs.TASK, queue="work", pass_context=True, retry=RetryStrategy(max_attempts=runs.MOST_ATTEMPTS, wait=1))
def work(context, run: str) -> None:
    """Carries out a run. A lost child is tried again, up to a limit; a cancelled one is ended."""
    attempt = runs.begin(run)
    if attempt is None:
        return
    with CHILDREN.borrowed() as child:
        begun, looks = child.seconds(), 0
        child.ask(run, attempt)
        while not child.answered(LOOK_SECONDS):
            looks += 1
            if context.should_abort() or (looks % LOOKS_BETWEEN == 0 and runs.is_forgotten(run)):
                child.kill()
                raise JobAborted
            if child.seconds() - begun > MOST_SECONDS:
                child.kill()
                runs.fail(run, attempt, "too-much", runs.TOO_LONG)
                return
        if not child.lost and runs.was_settled(run):
            # A search that was told to end goes on in its thread: with its process it ends.
            child.kill()
            return
    if child.lost:
        if attempt >= runs.MOST_ATTEMPTS:
            runs.fail(run, attempt, "lost", runs.LOST)
        raise ChildLost(f"the child that worked on run {run} ended")


@app.periodic(cron="* * * * * */5")
@app.task(queue="work", queueing_lock="rescue", pass_context=True)
async def rescue(context, timestamp: int) -> None:
    """Gives the work of workers that are gone to others; begin() sees to the limit. Keeps a child ready, too."""
    CHILDREN.prepare()
    manager = context.app.job_manager
    for job in await manager.get_stalled_jobs(seconds_since_heartbeat=SILENT_SECONDS):
        await manager.retry_job(job)

"""Runs: pieces of work in the queue."""

from __future__ import annotations

from rest_framework.response import Response
from rest_framework.views import APIView

from jobs import runs

from .. import presenters
from .. import serializers as s
from ..access import run_of
from ..responses import answers


class OneRun(APIView):
    @answers(s.RunOut)
    def get(self, request, job, run):
        """How far a piece of work is."""
        found = run_of(job, run)
        runs.still_asked(found)
        return Response(presenters.run_out(found))


class CancelRun(APIView):
    @answers(s.RunOut, request=None)
    def post(self, request, job, run):
        """Stops a piece of work; nothing of it is kept."""
        runs.cancel(run_of(job, run))
        return Response(presenters.run_out(run_of(job, run)))


class SettleRun(APIView):
    @answers(s.RunOut, request=None)
    def post(self, request, job, run):
        """Ends a piece of work that gets better with time; what is there so far is kept."""
        runs.settle(run_of(job, run))
        return Response(presenters.run_out(run_of(job, run)))

"""Files on their way to machines."""

from __future__ import annotations

from rest_framework.response import Response
from rest_framework.views import APIView
from sending import queue
from sending.models import Sending

from hakobu.errors import BadRequest, CannotDo, NotThere
from hakobu.machines.sending import Halt
from jobs import cost

from .. import working
from .. import working_serializers as w
from ..access import job_of, revision_of
from ..answers import answer
from ..responses import answers, valid

#: How many are listed: the newest.
MOST = 20
TOLD = {"pause": Halt.PAUSE, "cancel": Halt.CANCEL}


class Send(APIView):
    @answers(w.SendingOut, request=w.SendIn, status=201)
    def post(self, request, job, revision):
        """Sends the program of a sheet, or of the design, to its machine."""
        found = revision_of(job, revision)
        asked = valid(w.SendIn, request.data)
        machine = working.work_of(found, asked["sheet"])[1]
        if machine is None or not machine.address:
            name = machine.name if machine else "job"
            raise BadRequest(
                f"The {name} has no machine to send to: give it an address on the lists, or write the file."
            )
        seconds = 2 * cost.to_prove(found.document_id) + cost.to_lay(found.document_id)
        told = answer(request, "to send", seconds, found.pk, asked["sheet"], asked["from_run"], asked["done"])
        if told["stops"]:
            raise CannotDo(told["stops"][0])
        data = bytes.fromhex(told["file"])
        name = f"{found.job.name}{', sheet ' + str(asked['sheet']) if asked['sheet'] else ''}"
        more = (asked["again"], found.pk, asked["sheet"])
        row = queue.ask(found.job, machine, data, name, told["seconds"], *more)
        return Response(sending_out(row), status=201)


class OfJob(APIView):
    @answers(w.SendingOut(many=True))
    def get(self, request, job):
        """What was sent of a job, the newest first."""
        rows = Sending.objects.filter(job=job_of(job)).order_by("-pk")[:MOST]
        return Response([sending_out(row) for row in rows])


class Told(APIView):
    @answers(w.SendingOut, request=None)
    def post(self, request, job, sending, what):
        """Pauses, cancels, or goes on ("pause", "cancel", "go-on"); where the machine has forgotten the job behind the
        strokes that are done ("go-on-behind"), or from its begin ("begin-anew")."""
        row = Sending.objects.filter(job=job_of(job), pk=sending).first()
        if row is None:
            raise NotThere("This was not sent from this job.")
        if what == "go-on":
            queue.go_on(row)
        elif what == "go-on-behind":
            queue.go_on(row, row.done)
        elif what == "begin-anew":
            queue.go_on(row, 0)
        elif what in TOLD:
            queue.halt(row, TOLD[what])
        else:
            known = "pause, cancel, go-on, go-on-behind or begin-anew"
            raise BadRequest(f'"{what}" is nothing that a sending can be told: {known}.')
        row.refresh_from_db()
        return Response(sending_out(row))


def sending_out(row: Sending) -> dict:
    names = ("name", "machine_name", "seconds", "strokes", "done", "state", "wish", "problem", "forgotten", "sheet",
             "revision")  # fmt: skip
    hashed = {"sha256": row.blob_id, "created": row.created, "ended": row.ended}
    return {"id": row.pk, **{name: getattr(row, name) for name in names}, **hashed}

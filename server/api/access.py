"""Whether a request reaches a job and what belongs to it: every view finds these here, and nowhere else."""

from __future__ import annotations

from uuid import UUID

from django.db.models import Q

from hakobu.errors import NotThere
from jobs.models import Job, Revision, RevisionStep, Run


def job_of(pk: UUID | str) -> Job:
    """A job with the revision it stands at. Raises NotThere where there is none, or it was deleted."""
    found = Job.objects.select_related("head", "head__parent", "tip").filter(pk=pk).first()
    if found is None:
        raise NotThere("This job is not there (any more).")
    if found.deleted:
        raise NotThere(f'"{found.name}" was deleted; it can be brought back from the list of jobs.')
    return found


def revision_of(job: UUID | str, pk: int) -> Revision:
    """A revision of a job. Raises NotThere."""
    found = Revision.objects.select_related("job").filter(job=job, pk=pk).first()
    if found is None:
        raise NotThere("This state is not part of the job (any more).")
    return found


def document_of(job: UUID | str, document: str) -> str:
    """The hash of a document that a revision of the job, or one of its steps, has made. Raises NotThere."""
    made = Revision.objects.filter(job=job, document=document).exists()
    if not made and not RevisionStep.objects.filter(revision__job=job, result__document=document).exists():
        raise NotThere("This design is not part of the job (any more).")
    return document


def run_of(job: UUID | str, pk: UUID | str) -> Run:
    """A run of a job. One whose new job could not be made has none any more. Raises NotThere."""
    found = Run.objects.filter(Q(job=job) | Q(job=None), pk=pk).first()
    if found is None:
        raise NotThere("This work is not part of the job (any more).")
    return found

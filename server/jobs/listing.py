"""The list of jobs: searched, sorted, in pages; jobs deleted and brought back."""

from __future__ import annotations

from collections.abc import Sequence
from datetime import timedelta
from uuid import UUID

from django.db.models import F, QuerySet
from django.utils import timezone

from .models import Job

#: So long a deleted job can be brought back.
KEPT = timedelta(days=30)
#: How many are on a page where nothing is said, and at most.
PAGE, MOST = 60, 200
SORTS = {
    "changed": (F("changed").desc(), "pk"),
    "created": (F("created").desc(), "pk"),
    "name": ("name", "pk"),
    "waiting": (F("head__summary__waiting").desc(nulls_last=True), F("changed").desc(), "pk"),
}


def found(search: str = "", sort: str = "changed", deleted: bool = False) -> QuerySet[Job]:
    """Jobs with all the words of a search in their names, in an order of SORTS."""
    jobs = Job.objects.filter(deleted__isnull=not deleted)
    for word in search.split():
        jobs = jobs.filter(name__icontains=word)
    return jobs.select_related("head").order_by(*SORTS[sort])


def delete(ids: Sequence[UUID]) -> int:
    """How many were deleted; they can be brought back for thirty days."""
    forget_old()
    return Job.objects.filter(pk__in=ids, deleted=None).update(deleted=timezone.now())


def bring_back(ids: Sequence[UUID]) -> int:
    return Job.objects.filter(pk__in=ids).exclude(deleted=None).update(deleted=None)


def forget_old() -> None:
    """Jobs that were deleted long ago go for good; those of the demo stay deleted, or they would be loaded again."""
    for job in Job.objects.filter(deleted__lt=timezone.now() - KEPT, origin=""):
        job.delete()

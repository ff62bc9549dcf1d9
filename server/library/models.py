"""The lists of materials, machines, purposes, targets and stock as somebody has made them."""

from __future__ import annotations

from django.db import models


class KeptLists(models.Model):
    """All lists as they were at some time; never changed, so that what was held against them stays true. based_on: the
    ones before."""

    values = models.JSONField()
    what = models.CharField(max_length=200)
    based_on = models.OneToOneField("self", null=True, on_delete=models.PROTECT, related_name="after")
    created = models.DateTimeField(auto_now_add=True)

    class Meta:
        # Of two first changes at once only one is kept, as of any other two.
        constraints = [models.UniqueConstraint(fields=["based_on"], name="one_after_each", nulls_distinct=False)]

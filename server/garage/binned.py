"""What goes to the bin when it is deleted: out of every list at once, and back within thirty days."""

from __future__ import annotations

from typing import Any, ClassVar, Self, TypeVar

from django.conf import settings
from django.db import models
from django.utils import timezone

Row = TypeVar("Row", bound=models.Model)


class NotBinned(models.Manager[Row]):
    """Rows that are not in the bin. The first manager of a model, so that relations use it too."""

    def get_queryset(self) -> models.QuerySet[Row]:
        """Everything but the bin."""
        return super().get_queryset().filter(binned=None)


class Binnable(models.Model):
    """A row that can be in the bin. Whatever belongs to it stays with it there."""

    binned = models.DateTimeField(null=True, default=None, db_index=True)
    """When it was put into the bin; none while it is not."""
    binned_by = models.ForeignKey(settings.AUTH_USER_MODEL, null=True, default=None, on_delete=models.SET_NULL, related_name="+")

    objects: ClassVar[NotBinned[Self]] = NotBinned()
    with_bin: ClassVar[models.Manager[Self]] = models.Manager()

    class Meta:
        abstract = True

    def to_bin(self, user: Any) -> None:
        """Put it into the bin."""
        self.binned, self.binned_by = timezone.now(), user
        self.save(update_fields=["binned", "binned_by"])

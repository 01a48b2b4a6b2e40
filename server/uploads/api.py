"""Files on their way in, part by part."""

from __future__ import annotations

from django.http import HttpRequest
from ninja import Field, Router, Schema

from server.errors import ErrorOut, Refused
from server.uploads import services
from server.uploads.models import Upload

router = Router(tags=["uploads"])


class UploadIn(Schema):
    """A file to come."""

    name: str = Field(max_length=200)
    size: int = Field(ge=1, le=10**12)


class UploadOut(Schema):
    """A file on its way: how much of it is here, and how large a part may be."""

    id: int
    name: str
    size: int
    received: int
    most_part: int = services.MOST_PART


@router.post("/uploads", response={200: UploadOut, 409: ErrorOut, 413: ErrorOut, 507: ErrorOut})
def announce(request: HttpRequest, payload: UploadIn) -> Upload:
    """Begin to send a file."""
    return services.announce(request.user, payload.name, payload.size)


@router.put("/uploads/{upload_id}/parts/{offset}", response={200: UploadOut, 404: ErrorOut, 409: ErrorOut, 415: ErrorOut})
def take_part(request: HttpRequest, upload_id: int, offset: int) -> Upload:
    """Send the bytes of a file from an offset on, as application/octet-stream."""
    if request.content_type != "application/octet-stream":
        raise Refused("Send the bytes of the file, with the content type application/octet-stream.", code="request_invalid", status=415)
    return services.take_part(services.upload_of(request.user, upload_id), offset, request.body)


@router.delete("/uploads/{upload_id}", response={204: None, 404: ErrorOut})
def stop(request: HttpRequest, upload_id: int) -> tuple[int, None]:
    """Stop sending a file."""
    services.be_rid_of(services.upload_of(request.user, upload_id))
    return 204, None

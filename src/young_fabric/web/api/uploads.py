"""What is sent as a file."""

from __future__ import annotations

import contextlib

from flask_openapi3 import FileStorage
from pydantic import BaseModel, ConfigDict


class UploadForm(BaseModel):
    """One file as multipart form data."""

    model_config = ConfigDict(arbitrary_types_allowed=True)
    file: FileStorage


def content_of(form: UploadForm, most: int) -> bytes:
    """What was sent, and one byte more than `most` where there is more."""
    with contextlib.closing(form.file):
        return form.file.stream.read(most + 1)


def plain_name(filename: str | None, otherwise: str) -> str:
    """What a file is called, without folders and without what can't be shown."""
    shown = "".join(char for char in filename or "" if char.isprintable())
    return shown.replace("\\", "/").rsplit("/", 1)[-1][:120] or otherwise

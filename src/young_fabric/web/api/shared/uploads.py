"""What is sent as a file."""

from __future__ import annotations

import contextlib
from typing import Any

from flask_openapi3 import FileStorage
from pydantic import BaseModel, ConfigDict, field_validator
from werkzeug.datastructures import FileStorage as UploadedFile

LONGEST = 120


class UploadForm(BaseModel):
    """One file as multipart form data."""

    model_config = ConfigDict(arbitrary_types_allowed=True)
    file: FileStorage

    @field_validator("file", mode="before")
    @classmethod
    def is_file(cls, value: Any) -> Any:
        """Text in place of a file: the form has it without a name."""
        if not isinstance(value, UploadedFile):
            raise ValueError("this is no file: send it with a file name")
        return value


def content_of(form: UploadForm, most: int) -> bytes:
    """What was sent, and one byte more than `most` where there is more."""
    with contextlib.closing(form.file):
        return form.file.stream.read(most + 1)


def plain_name(filename: str | None, otherwise: str) -> str:
    """What a file is called, without folders and without what can't be shown."""
    shown = "".join(char for char in filename or "" if char.isprintable())
    last = shown.replace("\\", "/").rsplit("/", 1)[-1]
    stem, dot, ending = last.rpartition(".")
    # The ending says of what sort a file is: a long name is cut before it.
    cut = last if len(last) <= LONGEST else f"{(stem or ending)[: LONGEST - 11]}{dot}{ending[:10]}"
    return cut or otherwise

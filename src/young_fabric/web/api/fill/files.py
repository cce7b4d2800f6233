"""Files for download."""

from __future__ import annotations

from flask import Response, current_app, send_file

from young_fabric.service.acting.actors import Right
from young_fabric.service.files import files
from young_fabric.web.api import answers, blueprint, reply
from young_fabric.web.api.shared.uploads import UploadForm, content_of, plain_name
from young_fabric.web.auth import PUBLIC, allow, sessions, work
from young_fabric.web.schemas import products as s

api = blueprint("files")


@api.post("/files", responses=answers(s.FileOut))
@allow(Right.EDIT)
def files_upload(form: UploadForm) -> Response:
    """Check and keep a file."""
    name, content = plain_name(form.file.filename, "file"), content_of(form, files.MOST_BYTES)
    with work() as unit:
        kept = files.upload(unit, current_app.extensions["files"], name, content)
        return reply(s.FileOut, kept)


@allow(PUBLIC)
def serve_download(file: str) -> Response:
    """A kept file, always as a download: its address never means anything else, so it may be cached for good."""
    with sessions() as session:
        found = files.download(session, current_app.extensions["files"], file)
    response = send_file(
        found.path.resolve(), mimetype=found.media, as_attachment=True, download_name=found.name, etag=file
    )
    response.headers["Cache-Control"] = "public, max-age=31536000, immutable"
    return response

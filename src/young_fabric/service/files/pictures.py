"""Pictures: checked, re-encoded, kept under the hash of what they are, with smaller renditions."""

from __future__ import annotations

import hashlib
import io
import warnings
from collections.abc import Mapping
from dataclasses import dataclass
from pathlib import Path
from typing import Protocol

from PIL import Image, ImageOps, UnidentifiedImageError
from sqlalchemy.dialects.postgresql import insert

from young_fabric.core.base.errors import Refusal
from young_fabric.service.acting.actors import Right, Work
from young_fabric.store.repos import shop
from young_fabric.store.tables import PictureRow

MOST_BYTES = 12 * 1024 * 1024
LONGEST_SIDE = 10_000
MOST_PIXELS = 40_000_000
KEPT_SIDE = 2400
WIDTHS = (160, 480, 960, 1600)
FORMATS = {"JPEG": "JPEG", "PNG": "PNG", "WEBP": "WebP"}


class Files(Protocol):
    """Where files lie: bytes by name."""

    def write(self, name: str, content: bytes) -> None:
        """Keep bytes under a name."""

    def path(self, name: str) -> Path | None:
        """Where the bytes of a name can be read, None when there are none."""


@dataclass(frozen=True)
class KeptPicture:
    """A picture as kept: its file, and its size in pixels."""

    file: str
    width: int
    height: int


@dataclass(frozen=True)
class Encoded:
    """A picture checked and re-encoded: its bytes by the suffix of their name, and its size in pixels."""

    width: int
    height: int
    original: bytes
    renditions: Mapping[int, bytes]


def upload(work: Work, files: Files, name: str, content: bytes) -> KeptPicture:
    """Check, re-encode and keep a picture. Raises Refusal `file_size`, `file_kind`, `pixels`."""
    work.need(Right.EDIT)
    return keep(work, files, name, encode(name, content))


def encode(name: str, content: bytes) -> Encoded:
    """Check and re-encode a picture. Raises Refusal `file_size`, `file_kind`, `pixels`."""
    return encoded(_open(name, content))


def original(name: str, content: bytes) -> tuple[bytes, int, int]:
    """(a picture checked and re-encoded as it is kept, its width, its height). Raises Refusal `file_size`, `file_kind`, `pixels`."""
    image = _open(name, content)
    image.thumbnail((KEPT_SIDE, KEPT_SIDE), Image.Resampling.LANCZOS)
    return _encode(image, 90), image.width, image.height


def small(content: bytes, side: int) -> bytes:
    """A picture that is kept already, of at most so many pixels a side."""
    image = Image.open(io.BytesIO(content), formats=list(FORMATS))
    image.thumbnail((side, side), Image.Resampling.LANCZOS)
    return _encode(image, 82)


def encoded(image: Image.Image) -> Encoded:
    """A picture re-encoded: as it is kept, and narrower ones."""
    image.thumbnail((KEPT_SIDE, KEPT_SIDE), Image.Resampling.LANCZOS)
    original = _encode(image, 90)
    renditions = {width: original if width >= image.width else _encode(_narrowed(image, width), 82) for width in WIDTHS}
    return Encoded(image.width, image.height, original, renditions)


def keep(work: Work, files: Files, name: str, encoded: Encoded) -> KeptPicture:
    """Keep a picture under the hash of what it is, without asking for a right."""
    file = hashlib.sha256(encoded.original).hexdigest()
    shop.lock_name(work.session, f"file {file}")
    if files.path(f"{file}.webp") is None:
        for width, content in encoded.renditions.items():
            files.write(f"{file}-{width}.webp", content)
        files.write(f"{file}.webp", encoded.original)
    size = {"width": encoded.width, "height": encoded.height, "bytes": len(encoded.original)}
    work.session.execute(insert(PictureRow).values(file=file, name=name[:200], **size).on_conflict_do_nothing())
    return KeptPicture(file, encoded.width, encoded.height)


def _open(name: str, content: bytes) -> Image.Image:
    if len(content) > MOST_BYTES:
        raise Refusal(
            "file_size",
            f"{name} has {len(content) / 1048576:.1f} MB, a picture has at most {MOST_BYTES // 1048576} MB",
            ("file",),
            "Save it smaller, as JPEG or WebP",
            {"case": "kept", "name": name, "most": MOST_BYTES // 1048576},
        )
    words, facts = f"{name} is not a JPEG, PNG or WebP picture", {"case": "picture", "name": name}
    refusal = Refusal("file_kind", words, ("file",), "Save it as one of these", facts)
    try:
        with warnings.catch_warnings():
            warnings.simplefilter("ignore", Image.DecompressionBombWarning)
            image: Image.Image = Image.open(io.BytesIO(content), formats=list(FORMATS))
    except Image.DecompressionBombError as error:
        raise _too_large(name, "far too many") from error
    except (UnidentifiedImageError, OSError, ValueError, SyntaxError) as error:
        raise refusal from error
    width, height = image.size
    if max(width, height) > LONGEST_SIDE or width * height > MOST_PIXELS:
        raise _too_large(name, f"{width:,} × {height:,}")
    try:
        image.load()
        image = ImageOps.exif_transpose(image)
        return image.convert("RGBA" if "A" in image.getbands() or "transparency" in image.info else "RGB")
    except (OSError, ValueError, SyntaxError) as error:
        raise refusal from error


def _too_large(name: str, pixels: str) -> Refusal:
    return Refusal(
        "pixels",
        f"{name} has {pixels} pixels, at most {LONGEST_SIDE:,} a side and 40 million in all fit",
        ("file",),
        "Scale it down: 2,400 pixels are plenty",
        {"name": name},
    )


def _narrowed(image: Image.Image, width: int) -> Image.Image:
    height = max(1, round(image.height * width / image.width))
    return image.resize((width, height), Image.Resampling.LANCZOS, reducing_gap=2.0)


def _encode(image: Image.Image, quality: int) -> bytes:
    out = io.BytesIO()
    image.save(out, "WEBP", quality=quality, method=2)
    return out.getvalue()

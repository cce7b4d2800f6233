"""Colours proposed for swatches out of a product's pictures."""

from __future__ import annotations

from dataclasses import dataclass

from PIL import Image

from young_fabric.core.nouns.fields.built_in import COVER
from young_fabric.core.options.picture_colours import FoundColour, main_colours
from young_fabric.service.acting.actors import Right, Work
from young_fabric.service.files.pictures import WIDTHS, Files
from young_fabric.service.products import products

MOST_PICTURES = 6
SIDE = 64
"""Pictures are looked at so small: what matters is what they show in the large."""


@dataclass(frozen=True)
class PictureColours:
    """The colours of what a stored picture shows, the largest first."""

    file: str
    colours: tuple[FoundColour, ...]


def of_product(work: Work, files: Files, product_id: int) -> list[PictureColours]:
    """The colours of the first pictures of a product. Raises Refusal `not_found`."""
    work.need(Right.LOOK)
    held = products.need_record(work, product_id).product.values.get(COVER.key)
    pictures = held if isinstance(held, list) else []
    names = [str(picture["file"]) for picture in pictures if isinstance(picture, dict) and "file" in picture]
    found = ((name, files.path(f"{name}-{WIDTHS[0]}.webp")) for name in names[:MOST_PICTURES])
    return [PictureColours(name, main_colours(_pixels(Image.open(path)))) for name, path in found if path is not None]


def _pixels(image: Image.Image) -> list[list[tuple[int, int, int]]]:
    """A picture made small, on white where it is clear, row by row."""
    ground = Image.new("RGBA", image.size, "white")
    small = Image.alpha_composite(ground, image.convert("RGBA")).convert("RGB")
    small.thumbnail((SIDE, SIDE))
    flat = small.tobytes()
    width = small.width
    triples = [(flat[at], flat[at + 1], flat[at + 2]) for at in range(0, len(flat), 3)]
    return [triples[start : start + width] for start in range(0, len(triples), width)]

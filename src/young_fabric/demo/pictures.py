"""Drawn pictures of goods: tubes, pots, sheets, rolls, brushes, books, easels, canvases."""

from __future__ import annotations

import math
import random
from collections.abc import Callable, Sequence
from functools import lru_cache

from PIL import Image, ImageChops, ImageDraw, ImageFilter

SIDE = 900
Colour = tuple[int, int, int]
GROUND = (243, 244, 246)


def rgb(text: str) -> Colour:
    """#rrggbb as three numbers."""
    return int(text[1:3], 16), int(text[3:5], 16), int(text[5:7], 16)


def mixed(first: Colour, second: Colour, share: float) -> Colour:
    """`share` of the second in the first."""
    return tuple(round(a * (1 - share) + b * share) for a, b in zip(first, second, strict=True))  # type: ignore[return-value]


def _base(rng: random.Random) -> Image.Image:
    return _ground(2 + rng.randrange(2)).copy()


@lru_cache
def _ground(depth: int) -> Image.Image:
    image = Image.new("RGB", (SIDE, SIDE), GROUND)
    shade = Image.linear_gradient("L").resize((SIDE, SIDE))
    return Image.composite(
        image, Image.new("RGB", (SIDE, SIDE), (228, 230, 234)), shade.point(lambda v: 255 - v // depth)
    )


def _shadow(image: Image.Image, shape: Image.Image, dx: int = 18, dy: int = 26, blur: int = 22) -> None:
    left, top, right, bottom = shape.getbbox() or (0, 0, 0, 0)
    reach = blur * 3
    box = (max(left - reach, 0), max(top - reach, 0), min(right + reach, SIDE), min(bottom + reach, SIDE))
    soft = shape.crop(box).filter(ImageFilter.GaussianBlur(blur)).point(lambda v: v * 90 // 255)
    image.paste((40, 46, 60), (box[0] + dx, box[1] + dy), soft)


def _mask(
    points: Sequence[tuple[float, float]], draw_it: Callable[[ImageDraw.ImageDraw, list[float]], None]
) -> Image.Image:
    """What a shape within some points covers; drawn at twice the size, and only where it is."""
    left, top = math.floor(min(x for x, _ in points)) - 1, math.floor(min(y for _, y in points)) - 1
    right, bottom = math.ceil(max(x for x, _ in points)) + 2, math.ceil(max(y for _, y in points)) + 2
    small = Image.new("L", ((right - left) * 2, (bottom - top) * 2), 0)
    draw_it(ImageDraw.Draw(small), [edge for x, y in points for edge in ((x - left) * 2, (y - top) * 2)])
    mask = Image.new("L", (SIDE, SIDE), 0)
    mask.paste(small.reduce(2), (left, top))
    return mask


@lru_cache(maxsize=256)
def _round_fill(colour: Colour, left: int, right: int, gloss: float = 0.45) -> Image.Image:
    """A cylinder's light: bright left of the middle, dark at the edges."""
    row = bytearray()
    for x in range(SIDE):
        t = min(max((x - left) / max(right - left, 1), 0), 1)
        light = max(0.0, 1 - abs(t - 0.32) * 3.2) * gloss
        dark = min(max(0.0, (t - 0.55) * 0.9) + max(0.0, (0.12 - t) * 2.2), 0.5)
        row += bytes(
            round(round(part * (1 - dark) + shade * dark) * (1 - light) + 255 * light)
            for part, shade in zip(colour, (18, 20, 30), strict=True)
        )
    return Image.frombytes("RGB", (SIDE, 1), bytes(row)).resize((SIDE, SIDE), Image.Resampling.NEAREST)


def _put(image: Image.Image, mask: Image.Image, fill: Image.Image | Colour) -> None:
    box = mask.getbbox()
    if box is not None:
        image.paste(fill if isinstance(fill, tuple) else fill.crop(box), box, mask.crop(box))


def _poly(*points: tuple[float, float]) -> Image.Image:
    return _mask(points, lambda d, edges: d.polygon(edges, fill=255))


def _box(x0: float, y0: float, x1: float, y1: float, radius: float = 0) -> Image.Image:
    return _mask(((x0, y0), (x1, y1)), lambda d, edges: d.rounded_rectangle(edges, radius * 2, fill=255))


def _oval(x0: float, y0: float, x1: float, y1: float) -> Image.Image:
    return _mask(((x0, y0), (x1, y1)), lambda d, edges: d.ellipse(edges, fill=255))


def tube(colour: Colour, rng: random.Random) -> Image.Image:
    """A metal tube with a band of its colour, cap down."""
    image = _base(rng)
    body = _poly((318, 110), (582, 110), (566, 640), (334, 640))
    neck = _poly((334, 640), (566, 640), (500, 700), (400, 700))
    cap = _box(392, 696, 508, 800, 12)
    _shadow(image, ImageChops.lighter(body, ImageChops.lighter(neck, cap)))
    metal = _round_fill((206, 208, 212), 318, 582, 0.6)
    _put(image, body, metal)
    _put(image, neck, _round_fill((186, 188, 194), 334, 566, 0.6))
    _put(image, cap, _round_fill((44, 46, 54), 392, 508, 0.35))
    _put(image, _box(312, 96, 588, 136, 4), _round_fill((190, 192, 198), 312, 588, 0.6))
    band = ImageChops.multiply(body, _box(300, 196, 600, 430))
    _put(image, band, _round_fill(colour, 318, 582, 0.35))
    label = ImageChops.multiply(body, _box(300, 430, 600, 600))
    _put(image, label, _round_fill((250, 249, 245), 318, 582, 0.2))
    for top, width in ((466, 150), (496, 108), (540, 64)):
        _put(image, _box(450 - width / 2, top, 450 + width / 2, top + 9, 4), mixed(colour, (28, 34, 48), 0.55))
    return image


def pot(colour: Colour, rng: random.Random) -> Image.Image:
    """A glass pot with a dark lid."""
    image = _base(rng)
    glass, lid = _box(230, 320, 670, 760, 60), _box(248, 214, 652, 344, 20)
    _shadow(image, ImageChops.lighter(glass, lid))
    _put(image, glass, _round_fill((222, 228, 232), 230, 670, 0.6))
    _put(image, _box(250, 372, 650, 744, 46), _round_fill(colour, 250, 650, 0.4))
    _put(image, lid, _round_fill((48, 50, 58), 248, 652, 0.3))
    for x in range(262, 650, 18):
        _put(image, _box(x, 226, x + 4, 332, 2), (66, 69, 78))
    _put(image, _box(300, 500, 600, 640, 6), (250, 249, 245))
    for top, width in ((532, 170), (566, 120), (600, 70)):
        _put(image, _box(450 - width / 2, top, 450 + width / 2, top + 9, 4), mixed(colour, (28, 34, 48), 0.6))
    return image


def _grain(colour: Colour, rng: random.Random, strength: int) -> Image.Image:
    spread = (strength + rng.randrange(4)) / 74
    dots = Image.frombytes("L", (SIDE, SIDE), rng.randbytes(SIDE * SIDE))
    noise = dots.point(lambda v: round(128 + (v - 128) * spread)).filter(ImageFilter.GaussianBlur(0.8))
    flat = Image.new("RGB", (SIDE, SIDE), colour)
    return ImageChops.add(flat, Image.merge("RGB", [noise] * 3), 1, -128)


def sheet(colour: Colour, rng: random.Random) -> Image.Image:
    """A few sheets, one over the other, with torn edges."""
    image = _base(rng)
    for turn in (2, 1, 0):
        jag: list[tuple[float, float]] = [
            (150 + turn * 26 + rng.uniform(-2, 2), float(y)) for y in range(740, 150, -24)
        ]
        jag += [(x, 150 - turn * 12 + rng.uniform(-2, 2)) for x in range(160 + turn * 26, 730, 24)]
        jag += [(744 + turn * 22 + rng.uniform(-2, 2), y) for y in range(160, 740, 24)]
        jag += [(x, 750 + turn * 6 + rng.uniform(-2, 2)) for x in range(730, 160, -24)]
        mask = _poly(*jag)
        _shadow(image, mask, 8, 12, 12)
        _put(image, mask, _grain(mixed(colour, (120, 110, 90), turn * 0.07), rng, 16))
    curl = _poly((744, 750), (610, 750), (744, 620))
    _shadow(image, curl, -6, -6, 10)
    _put(image, curl, _grain(mixed(colour, (255, 255, 255), 0.25), rng, 8))
    return image


def roll(colour: Colour, rng: random.Random) -> Image.Image:
    """A roll of paper, its end lying open."""
    image = _base(rng)
    flat = _poly((200, 470), (720, 470), (790, 740), (130, 740))
    body = _box(170, 270, 740, 500, 60)
    _shadow(image, ImageChops.lighter(flat, body))
    _put(image, flat, _grain(mixed(colour, (255, 255, 255), 0.12), rng, 10))
    light = Image.linear_gradient("L").resize((SIDE, 230))
    fill = Image.new("RGB", (SIDE, SIDE), colour)
    fill.paste(
        Image.composite(
            Image.new("RGB", (SIDE, 230), mixed(colour, (20, 16, 10), 0.35)),
            Image.new("RGB", (SIDE, 230), mixed(colour, (255, 255, 255), 0.25)),
            light,
        ),
        (0, 270),
    )
    _put(image, body, fill)
    _put(image, _oval(700, 272, 780, 498), mixed(colour, (60, 50, 40), 0.2))
    _put(image, _oval(722, 336, 758, 434), (70, 62, 54))
    return image


def brush(colour: Colour, rng: random.Random) -> Image.Image:
    """A brush lying across, turned a little."""
    image = Image.new("RGBA", (SIDE, SIDE), (0, 0, 0, 0))
    handle = _poly((436, 20), (464, 20), (480, 300), (474, 560), (426, 560), (420, 300))
    ferrule = _poly((424, 552), (476, 552), (484, 680), (416, 680))
    hair = _poly((416, 676), (484, 676), (502, 740), (484, 800), (450, 872), (416, 800), (398, 740))
    for mask, fill in (
        (handle, _round_fill(colour, 420, 480, 0.4)),
        (ferrule, _round_fill((196, 198, 204), 416, 484, 0.7)),
        (hair, _round_fill((128, 82, 48), 398, 502, 0.3)),
    ):
        image.paste(fill, mask=mask)
    for y in (580, 592, 656):
        image.paste((140, 142, 150, 255), mask=_box(418, y, 482, y + 4))
    turned = image.rotate(32 + rng.randrange(8), resample=Image.Resampling.BICUBIC)
    whole = _base(rng)
    _shadow(whole, turned.getchannel("A"))
    whole.paste(turned, mask=turned.getchannel("A"))
    return whole


def book(colour: Colour, rng: random.Random) -> Image.Image:
    """A bound book, seen a little from the side."""
    image = _base(rng)
    pages, cover = (
        _poly((230, 150), (700, 150), (720, 770), (250, 770)),
        _poly((200, 130), (670, 130), (670, 760), (200, 760)),
    )
    _shadow(image, ImageChops.lighter(pages, cover))
    _put(image, pages, (246, 243, 234))
    for x in range(676, 718, 6):
        _put(image, _poly((x, 152), (x + 2, 152), (x + 4, 768), (x + 2, 768)), (214, 208, 194))
    _put(image, cover, _grain(colour, rng, 20))
    _put(image, _box(200, 130, 236, 760), mixed(colour, (20, 20, 26), 0.3))
    _put(image, _box(606, 130, 620, 760), mixed(colour, (20, 20, 26), 0.55))
    _put(image, _box(330, 250, 520, 330, 4), mixed(colour, (255, 255, 255), 0.8))
    for top, width in ((274, 110), (298, 70)):
        _put(image, _box(425 - width / 2, top, 425 + width / 2, top + 7, 3), mixed(colour, (28, 34, 48), 0.6))
    return image


def easel(colour: Colour, rng: random.Random) -> Image.Image:
    """An easel with an empty canvas on it."""
    image = _base(rng)
    dark = mixed(colour, (50, 30, 12), 0.3)
    back = _poly((440, 120), (460, 120), (500, 840), (476, 840))
    legs = [_poly((420, 70), (446, 70), (270, 850), (240, 850)), _poly((454, 70), (480, 70), (660, 850), (630, 850))]
    whole = back
    for leg in legs:
        whole = ImageChops.lighter(whole, leg)
    _shadow(image, whole)
    _put(image, back, dark)
    for leg in legs:
        _put(image, leg, _round_fill(colour, 240, 660, 0.25))
    canvas = _box(270, 190, 630, 600, 3)
    _shadow(image, canvas, 8, 10, 10)
    _put(image, canvas, _grain((247, 245, 239), rng, 8))
    _put(image, _box(228, 600, 672, 630, 4), colour)
    _put(image, _box(300, 720, 604, 740, 4), dark)
    _put(image, _box(420, 150, 480, 196, 5), dark)
    return image


def canvas(colour: Colour, rng: random.Random) -> Image.Image:
    """A stretched canvas with its side showing."""
    image = _base(rng)
    side, front = _poly((690, 160), (744, 200), (744, 790), (690, 750)), _box(170, 160, 692, 750)
    _shadow(image, ImageChops.lighter(side, front))
    _put(image, side, mixed(colour, (70, 56, 36), 0.35))
    _put(image, front, _grain(colour, rng, 14))
    draw = ImageDraw.Draw(image)
    for step in range(160, 750, 6):
        draw.line((170, step, 690, step), fill=mixed(colour, (255, 255, 255), 0.14))
    for step in range(170, 692, 6):
        draw.line((step, 160, step, 750), fill=mixed(colour, (90, 76, 50), 0.10))
    return image


def wash(colour: Colour, rng: random.Random) -> Image.Image:
    """A painted stroke, heavy to light, on white paper."""
    image = _grain((250, 249, 245), rng, 10)
    small = SIDE // 6
    stroke = Image.new("L", (small, small), 0)
    for step in range(60):
        x = (110 + step * 11.5) / 6
        up, down = rng.uniform(-14, 14) / 6, rng.uniform(-14, 14) / 6
        layer = Image.new("L", (small, small), 0)
        ImageDraw.Draw(layer).ellipse((x - 12, 50 + up, x + 12, 100 + down), fill=max(14, 80 - step))
        stroke = ImageChops.screen(stroke, layer)
    mask = stroke.filter(ImageFilter.GaussianBlur(1)).resize((SIDE, SIDE), Image.Resampling.BICUBIC)
    image.paste(Image.new("RGB", (SIDE, SIDE), colour), mask=mask)
    return image


def wood(colour: Colour, rng: random.Random) -> Image.Image:
    """A board, close: long grain, darker and lighter."""
    image = Image.new("RGB", (SIDE, SIDE), colour)
    pen = ImageDraw.Draw(image)
    y = 0.0
    while y < SIDE:
        shade = mixed(colour, (40, 26, 16) if rng.random() < 0.6 else (255, 244, 226), rng.uniform(0.04, 0.28))
        rise, bend = rng.uniform(2, 9), rng.uniform(-26, 26)
        points = [(x, y + bend * math.sin(math.pi * x / SIDE)) for x in range(0, SIDE + 30, 30)]
        pen.line(points, fill=shade, width=max(1, round(rise / 2)))
        y += rise
    return image.filter(ImageFilter.GaussianBlur(1.2))


SORTS: dict[str, Callable[[Colour, random.Random], Image.Image]] = {
    "tube": tube,
    "pot": pot,
    "sheet": sheet,
    "roll": roll,
    "brush": brush,
    "book": book,
    "easel": easel,
    "canvas": canvas,
    "wash": wash,
    "wood": wood,
}


def drawn(sort: str, colour: str, seed: str) -> Image.Image:
    """A picture of a sort of goods in a colour; the same for the same seed."""
    return SORTS[sort](rgb(colour), random.Random(seed))

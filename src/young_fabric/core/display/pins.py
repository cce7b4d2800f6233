"""A picture with pins: places on it, each with words and where they lead."""

from __future__ import annotations

import re
from collections.abc import Mapping
from typing import Any

from young_fabric.core.base.errors import Refusal
from young_fabric.core.display.block_members import Member
from young_fabric.core.display.choices import short_text
from young_fabric.core.kinds.links import is_address
from young_fabric.core.kinds.pictures import Picture

MOST_PINS = 24
LONGEST_PIN = 300
ACROSS = 1_000
"""Where a pin stands is told in thousandths of the picture's width and height."""
_PIN = {"x", "y", "words", "link"}
_WITHIN = re.compile(r"/(?!/)[^\s<>\"\\^`{|}]*")
"""An address within the shop: an absolute path, never one that begins with another host."""
_words = short_text(LONGEST_PIN, lines=True)
_PICTURE = Picture()


def check_picture(value: Any) -> Refusal | None:
    """Whether a value is a picture as fields have it: {file, alt, width, height}."""
    if _PICTURE.well_formed(value):
        return None
    return Refusal("picture", "Choose the picture it shows", help="Upload one")


def leads(link: Any) -> bool:
    """Whether a text is where a pin can lead: nowhere, within the shop, or a whole address."""
    if not isinstance(link, str) or len(link) > 2_000:
        return False
    return not link or _WITHIN.fullmatch(link) is not None or is_address(link)


def check_pins(value: Any) -> Refusal | None:
    """Whether a value is a list of pins {x, y, words, link}, x and y in thousandths of the picture."""
    if not isinstance(value, list | tuple):
        return Refusal("pins", "Pins are a list of places", help="Place them on the picture")
    if len(value) > MOST_PINS:
        return Refusal("too_many", f"A picture has at most {MOST_PINS} pins", help="Take some off")
    for index, pin in enumerate(value):
        wrong = _check_pin(pin)
        if wrong is not None:
            return wrong.at(index)
    return None


def _check_pin(pin: Any) -> Refusal | None:
    if not isinstance(pin, Mapping) or set(pin) != _PIN:
        return Refusal("pins", "A pin says where it is, its words and its link", help="Place it on the picture")
    for side in ("x", "y"):
        if type(pin[side]) is not int or not 0 <= pin[side] <= ACROSS:
            words = f"A pin stands on its picture, from 0 to {ACROSS} thousandths of it"
            return Refusal("number", words, (side,), "Place it on the picture")
    wrong = _words(pin["words"])
    if wrong is not None:
        return wrong.at("words")
    if not leads(pin["link"]):
        help_ = "Write it whole, such as https://saltmarsh.example/care, or from / on within the shop"
        return Refusal("link", f"“{str(pin['link'])[:60]}” is not an address that can be linked to", ("link",), help_)
    return None


PICTURE = Member("picture", "Picture", "picture", check_picture, {})
PINS = Member("pins", "Pins", "pins", check_pins, (), typed=True)

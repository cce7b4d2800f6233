"""Fields: what can be recorded about a product, defined once."""

from __future__ import annotations

import re
import unicodedata
from collections.abc import Container, Mapping, Sequence
from dataclasses import dataclass, field
from decimal import Decimal
from typing import Any, Literal

from young_fabric.core import units
from young_fabric.core.errors import Refusal
from young_fabric.core.kinds import KINDS, Kind, Limits, Spec
from young_fabric.core.kinds.numbers import is_plain_decimal
from young_fabric.core.kinds.texts import compile_pattern
from young_fabric.core.value_lists import ValueList

Need = Literal["optional", "wanted", "required"]
Audience = Literal["shoppers", "feeds", "staff"]
NEEDS: tuple[Need, ...] = ("optional", "wanted", "required")
AUDIENCES: tuple[Audience, ...] = ("shoppers", "feeds", "staff")
KEY = re.compile("[a-z][a-z0-9_]{0,59}")
_LONGEST = {"name": 80, "label": 120, "help": 400, "example": 200}


@dataclass(frozen=True)
class Field:
    """One definition. `name` is for staff, `label` for shoppers, `list` the key of the value list it takes from.

    `many` holds several values in an order; `default` is a canonical value shown where a product has none.
    """

    key: str
    name: str
    label: str
    kind: str
    many: bool = False
    unit: str | None = None
    list: str | None = None
    limits: Limits = field(default_factory=Limits)
    need: Need = "optional"
    audience: Audience = "shoppers"
    help: str = ""
    example: str = ""
    default: Any = None
    own: bool = True

    @property
    def sort(self) -> Kind:
        """The kind's rules."""
        return KINDS[self.kind]


def stricter(one: Need, other: Need) -> Need:
    """The stricter of two needs."""
    return NEEDS[max(NEEDS.index(one), NEEDS.index(other))]


def make_key(name: str, prefix: str = "", taken: Container[str] = ()) -> str:
    """A key from a name, with the shop's prefix, numbered when taken."""
    plain = unicodedata.normalize("NFKD", name).encode("ascii", "ignore").decode().lower()
    body = re.sub(r"[^a-z0-9]+", "_", plain).strip("_")[:40] or "field"
    base = f"{prefix}{body}"
    if not base[0].isalpha():
        base = f"f_{base}"
    key, number = base, 2
    while key in taken:
        key, number = f"{base}_{number}", number + 1
    return key


def spec_of(this: Field, lists: Mapping[str, ValueList], locale: str, currency: str) -> Spec:
    """All the field's kind must know."""
    return Spec(this.limits, this.unit, lists.get(this.list or ""), locale, currency)


def check_field(this: Field, lists: Container[str], prefix: str = "") -> None:
    """Whether a definition is sound. Raises Refusal with the member in `where`."""
    for member, longest in _LONGEST.items():
        if len(getattr(this, member)) > longest:
            raise Refusal("long", f"At most {longest} characters fit", (member,), "Shorten it")
    for member in ("name", "label"):
        if not getattr(this, member).strip():
            raise Refusal("required", f"A field needs a {member}", (member,), "Type one")
    if not KEY.fullmatch(this.key):
        raise Refusal(
            "key",
            f"“{this.key}” can't be a key",
            ("key",),
            "Begin with a small letter, then small letters, digits and underscores, at most 60",
        )
    if this.own and not this.key.startswith(prefix):
        raise Refusal("key", f"Keys of your own fields begin with {prefix}", ("key",), f"Write {prefix}{this.key}")
    if this.kind not in KINDS or (this.own and not KINDS[this.kind].own_fields):
        raise Refusal("kind", f"There is no kind “{this.kind}”", ("kind",), "Choose one of the kinds offered")
    if this.need not in NEEDS or this.audience not in AUDIENCES:
        raise Refusal("unknown", "Not one of the choices", ("need",), "Choose one of those offered")
    _check_kind(this, lists)
    _check_limits(this)


def _check_kind(this: Field, lists: Container[str]) -> None:
    kind = this.sort
    if this.many and not kind.takes_many:
        raise Refusal("many", f"A field of kind {kind.name} holds one value", ("many",), "Choose one value")
    if kind.takes_unit and (this.unit is None or units.find(this.unit) is None):
        raise Refusal("unit", "A measure needs a unit", ("unit",), "Choose a unit, such as mm or g/m²")
    if not kind.takes_unit and this.unit is not None:
        raise Refusal("unit", f"A field of kind {kind.name} has no unit", ("unit",), "Take the unit away")
    if kind.takes_list and (this.list is None or this.list not in lists):
        raise Refusal("list", "Choose the value list it takes from", ("list",), "Choose a list, or make one")
    if not kind.takes_list and this.list is not None:
        raise Refusal("list", f"A field of kind {kind.name} has no value list", ("list",), "Take the list away")


def allowed_limits(this: Field) -> tuple[str, ...]:
    """The limits a field of this kind, holding one or many, can have."""
    counts = ("min_count", "max_count") if this.many else ()
    return (*this.sort.limits, *counts)


_PAIRS: Sequence[tuple[str, str]] = (("min", "max"), ("min_length", "max_length"), ("min_count", "max_count"))


def _check_limits(this: Field) -> None:
    allowed = {*allowed_limits(this), "required"}
    for name, value in this.limits.given().items():
        if name not in allowed:
            raise Refusal(
                "limit", f"A field of kind {this.sort.name} has no such limit", ("limits", name), "Take it away"
            )
        sound = is_plain_decimal(value) if name in ("min", "max") else name == "pattern" or 0 <= int(value) <= 100_000
        if not sound:
            raise Refusal("number", "Not a number that can be a limit", ("limits", name), "Write digits, such as 60")
    if this.limits.decimals is not None and this.limits.decimals > 12:
        raise Refusal("above", "At most 12 decimals are kept", ("limits", "decimals"), "Write 12 or less")
    for low, high in _PAIRS:
        least, most = getattr(this.limits, low), getattr(this.limits, high)
        if least is not None and most is not None and Decimal(least) > Decimal(most):
            raise Refusal("limit_order", "The smallest is above the largest", ("limits", low), "Swap the two")
    if this.limits.pattern is not None:
        if len(this.limits.pattern) > 300:
            raise Refusal("long", "A pattern has at most 300 characters", ("limits", "pattern"), "Shorten it")
        compile_pattern(this.limits.pattern)


def _built_in(key: str, label: str, kind: str, **more: Any) -> Field:
    return Field(key, label, label, kind, own=False, **more)


BUILT_IN: Mapping[str, Field] = {
    this.key: this
    for this in (
        _built_in("title", "Title", "text", need="required", limits=Limits(max_length=160)),
        _built_in(
            "slug",
            "Address",
            "text",
            need="required",
            audience="staff",
            limits=Limits(pattern="[a-z0-9]+(-[a-z0-9]+)*", max_length=120),
        ),
        _built_in("sku", "SKU", "text", need="required", limits=Limits(pattern="[A-Z0-9._/-]+", max_length=64)),
        _built_in("gtin", "GTIN", "gtin", audience="feeds"),
        _built_in("price", "Price", "money", need="required"),
        _built_in("contents", "Contents", "contents", help="What one piece holds: the unit price comes from it"),
        _built_in("unit_price", "Unit price", "money", help="Computed from price and contents"),
        _built_in("pictures", "Pictures", "picture", many=True, need="wanted", limits=Limits(max_count=12)),
        _built_in("description", "Description", "long_text", need="wanted", limits=Limits(max_length=5000)),
    )
}
"""Fields every product has, in their order."""

DERIVED = frozenset({"unit_price"})
"""Built-in fields that are computed, never filled."""

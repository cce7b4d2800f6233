"""Ratings: how good something is found, out of how much, and by how many."""

from __future__ import annotations

import re
from collections.abc import Mapping
from decimal import Decimal
from typing import Any

from young_fabric.core.base import locales
from young_fabric.core.base.errors import Refusal
from young_fabric.core.base.locales import is_plain_decimal
from young_fabric.core.base.wording.words import say
from young_fabric.core.kinds.base import Judge, Kind, Show, Spec, Value, object_schema
from young_fabric.core.kinds.numbers import number_schema
from young_fabric.core.kinds.shown import Rated

USUAL_BEST = "5"
MOST_RATINGS = 1_000_000_000
_TYPED = re.compile(r"(?P<value>[^/()]{1,60}?)(?:\s*/\s*(?P<best>[^/()]{1,60}?))?\s*(?:\((?P<count>[^/()]{1,60})\))?")


class Rating(Kind):
    """A rating as {value, out_of, count}: plain decimals, and how many rated (None where nobody counted)."""

    code, name, example = "rating", "rating", "4.6/5 (128)"
    shapes = ("rating",)
    formats = ("rating_as",)
    comparison = "rating"
    takes_many = False
    takes_default = False

    def read(self, text: str, spec: Spec) -> Value:
        found = _TYPED.fullmatch(self._with_strokes(text.strip(), spec))
        if found is None:
            words = f"“{text.strip()[:40]}” is not a rating"
            raise Refusal("number", words, help="Type it such as 4.6/5, with how many rated in brackets")
        best = locales.read_number(found["best"] or USUAL_BEST, spec.locale)
        count = None if found["count"] is None else self._count(found["count"], spec)
        return {"value": locales.read_number(found["value"], spec.locale), "out_of": best, "count": count}

    def _with_strokes(self, text: str, spec: Spec) -> str:
        """Typed text with a stroke where the shop's language, or English, says `of`."""
        for locale in (spec.locale, "en"):
            of = say(locale, "rated", value="\n", out_of="\n").strip("\n")
            text = text.replace(of, "/", 1) if "/" not in text else text
        return text

    def _count(self, text: str, spec: Spec) -> int:
        digits = locales.read_number(text, spec.locale)
        if "." in digits:
            raise Refusal("decimals", f"“{text.strip()}” is not a whole number", help="Type how many rated")
        count = int(digits)
        if count < 0 or count > MOST_RATINGS:
            code = "below" if count < 0 else "above"
            raise Refusal(code, f"{text.strip()[:40]} can't be a number of ratings", help="Type how many rated")
        return count

    def checker(self, spec: Spec) -> Judge:
        def check(value: Value) -> Refusal | None:
            rated, best = Decimal(value["value"]), Decimal(value["out_of"])
            if best <= 0 or rated < 0:
                return Refusal("below", "below 0", help="Type a rating such as 4.6/5")
            if rated > best:
                words = f"above {locales.show_number(value['out_of'], spec.locale)}, which is the best"
                return Refusal("above", words, help="Type a lower rating, or what it is out of, such as 8/10")
            return None

        return check

    def well_formed(self, value: Any) -> bool:
        return (
            isinstance(value, dict)
            and len(value) == 3
            and is_plain_decimal(value.get("value"))
            and is_plain_decimal(value.get("out_of"))
            and "count" in value
            and (value["count"] is None or (type(value["count"]) is int and 0 <= value["count"] <= MOST_RATINGS))
        )

    def shower(self, spec: Spec, properties: Mapping[str, Any]) -> Show:
        how = properties.get("rating_as") or "stars"

        def show(value: Value) -> Rated:
            rated, best = (locales.show_number(value[name], spec.locale) for name in ("value", "out_of"))
            count = value["count"]
            tail = "" if count is None else say(spec.locale, "ratings", count)
            share = Decimal(100) * Decimal(value["value"]) / Decimal(value["out_of"])
            return Rated(int(share), say(spec.locale, "rated", value=rated, out_of=best), tail, how)

        return show

    def together(self, nodes: list[Any]) -> Any:
        return nodes[0]

    def to_text(self, value: Value, spec: Spec) -> str:
        rated, best = (locales.show_number(value[name], spec.locale) for name in ("value", "out_of"))
        count = value["count"]
        return f"{rated}/{best}" + ("" if count is None else f" ({locales.show_number(str(count), spec.locale)})")

    def json_schema(self, spec: Spec) -> dict[str, Any]:  # noqa: ARG002
        members: dict[str, Any] = {name: number_schema(Spec(), Decimal(0)) for name in ("value", "out_of")}
        members["count"] = {"type": ["integer", "null"], "minimum": 0, "maximum": MOST_RATINGS}
        return {**object_schema(members), "format": self.code}

    def words(self, value: Value) -> str:
        return f"{value['value']}/{value['out_of']}" if self.well_formed(value) else super().words(value)

    def property_value(self, value: Value, spec: Spec, root: str) -> dict[str, Any]:  # noqa: ARG002
        count = {} if value["count"] is None else {"count": value["count"]}
        return {"value": value["value"], "maxValue": value["out_of"], **count}

"""What a product type says of a field beyond its definition: stricter limits, a default, help of its own."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, field, replace
from typing import Any

from young_fabric.core.base.errors import Refusal
from young_fabric.core.base.shapes import STRICT
from young_fabric.core.kinds.base import in_words
from young_fabric.core.kinds.limits import UNIQUE, check_limits
from young_fabric.core.nouns.base import Known, State
from young_fabric.core.nouns.fields.fields import LONGEST_HELP, Field, allowed_limits, judge_of


@dataclass(frozen=True)
class Tightening:
    """Limits that let no more through than the field's, a canonical default (None: as inherited), help ("": as inherited)."""

    __pydantic_config__ = STRICT
    limits: Mapping[str, Any] = field(default_factory=dict)
    default: Any = None
    help: str = ""


def tightened(definition: Field, by: Tightening) -> Field:
    """A field as a type has it: of two limits the narrower holds."""
    limits = dict(definition.limits)
    for limit in allowed_limits(definition):
        wanted, stands = by.limits.get(limit.code), limits.get(limit.code)
        if wanted is not None and (stands is None or limit.narrows(stands, wanted)):
            limits[limit.code] = wanted
    default = definition.default if by.default is None else by.default
    return replace(definition, limits=limits, default=default, help=by.help or definition.help)


def check_tightening(key: str, by: Tightening, defs: Known) -> None:
    """Raises Refusal: `unknown_field`, `long`, `looser`, `default`, or of its limits."""
    definition = defs.all_fields.get(key)
    if definition is None or definition.derived:
        raise Refusal("unknown_field", f"There is no field {key[:60]} that is filled", (), "Take it off")
    if len(by.help) > LONGEST_HELP:
        raise Refusal("long", f"At most {LONGEST_HELP} characters fit", ("help",), "Shorten it")
    allowed = allowed_limits(definition)
    check_limits(by.limits, allowed, definition.rules.name)
    if UNIQUE.code in by.limits:
        raise Refusal(
            "limit", "What no two products share is said by the field alone", ("limits", UNIQUE.code), "Tick it there"
        )
    for limit in allowed:
        wanted, stands = by.limits.get(limit.code), definition.limits.get(limit.code)
        if wanted is not None and stands is not None and not limit.narrows(stands, wanted):
            words = f"{definition.name} allows {limit.label} {_words(stands)}, and a type can only be stricter"
            raise Refusal("looser", words, ("limits", limit.code), "Change it in the field's own definition")
    tight = tightened(definition, by)
    check_limits(tight.limits, allowed, definition.rules.name)
    if by.default is None:
        return
    if not definition.rules.takes_default or definition.many:
        raise Refusal(
            "default", f"A field of this kind has no default: {definition.name}", ("default",), "Take it away"
        )
    wrong = judge_of(tight, defs.spec(tight))(by.default)
    if wrong:
        raise Refusal(wrong.code, f"The default: {wrong.message}", ("default",), wrong.help)


def _words(value: Any) -> str:
    return ", ".join(map(str, value)) if isinstance(value, list | tuple) else str(value)


def describe_tightening(before: State, after: State, defs: Known) -> list[str]:
    """What types say of fields otherwise than before, in words."""
    out = []
    for key in sorted({*before, *after}):
        old, new = before.get(key) or {}, after.get(key) or {}
        named = defs.all_fields[key].name if key in defs.all_fields else key
        if (old.get("limits") or {}) != (new.get("limits") or {}):
            limits = ", ".join(f"{code} {_words(value)}" for code, value in (new.get("limits") or {}).items())
            out.append(f"limits of {named}: {limits or 'as inherited'}")
        for member in ("default", "help"):
            if (old.get(member) or None) != (new.get(member) or None):
                words = in_words(new[member]) if new.get(member) else "as inherited"
                out.append(f"{member} of {named}: {words}")
    return out

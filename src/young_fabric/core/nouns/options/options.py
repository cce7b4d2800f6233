"""Options: one thing shoppers choose or type, with its values and what each does."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, field, replace
from functools import cached_property
from typing import Any, Literal

from young_fabric.core.base.errors import Refusal
from young_fabric.core.base.shapes import STRICT
from young_fabric.core.base.text import CODE, KEY, fold
from young_fabric.core.kinds.limits import check_limits
from young_fabric.core.nouns.base import Known
from young_fabric.core.nouns.lists.list_values import ListValue, Swatch, check_swatch
from young_fabric.core.nouns.lists.value_lists import MOST_VALUES, ValueList
from young_fabric.core.nouns.options.effects import Effect, check_effect
from young_fabric.core.nouns.options.option_kinds import OPTION_KINDS, OptionKind

Takes = Literal["own", "some", "grows"]
OWN: Takes = "own"
SOME: Takes = "some"
GROWS: Takes = "grows"
LONGEST_DESCRIPTION = 400
LONGEST_DEFAULT = 200


@dataclass(frozen=True)
class OptionValue:
    """A value of an option: of its own with label and swatch, or one of the value list's by its code; with what it does."""

    __pydantic_config__ = STRICT
    code: str
    label: str = ""
    swatch: Swatch = field(default_factory=Swatch)
    effect: Effect = field(default_factory=Effect)


@dataclass(frozen=True)
class Option:
    """One option. `name` is what shoppers read; `takes` says whether its values are its own, some of a value list's in the order
    put, or all of it as it grows, in which case `values` are those that do something. `effect` is what a request does that is
    given; `default` what is chosen beforehand, a code or text."""

    __pydantic_config__ = STRICT
    key: str
    name: str
    kind: str = "variant"
    description: str = ""
    required: bool = True
    default: str = ""
    takes: Takes = OWN
    list: str = ""
    values: tuple[OptionValue, ...] = ()
    limits: Mapping[str, Any] = field(default_factory=dict)
    effect: Effect = field(default_factory=Effect)

    @property
    def known(self) -> bool:
        """Whether this version knows its kind: one of a later version is left unread."""
        return self.kind in OPTION_KINDS

    @property
    def rules(self) -> OptionKind:
        """What its kind says."""
        return OPTION_KINDS[self.kind]

    @property
    def listed(self) -> bool:
        """Whether its values are those of a value list."""
        return self.takes != OWN

    @cached_property
    def effects(self) -> Mapping[str, Effect]:
        """What each value does, by code."""
        return {value.code: value.effect for value in self.values}


@dataclass(frozen=True, slots=True)
class OfferedValue:
    """A value as shoppers can choose it."""

    code: str
    label: str
    swatch: Swatch
    effect: Effect
    note: str = ""


def offered_values(option: Option, lists: Mapping[str, ValueList]) -> tuple[OfferedValue, ...]:
    """The values that can be chosen of an option, in order: of a list those not retired."""
    if not option.rules.chooses:
        return ()
    if not option.listed:
        return tuple(OfferedValue(value.code, value.label, value.swatch, value.effect) for value in option.values)
    found = lists.get(option.list)
    if found is None:
        return ()
    known = found.by_code
    codes = [value.code for value in option.values] if option.takes == SOME else list(known)
    effects = option.effects
    return tuple(
        _of_list(known[code], effects.get(code, _NO_EFFECT))
        for code in codes
        if code in known and not known[code].retired
    )


_NO_EFFECT = Effect()


def _of_list(value: ListValue, effect: Effect) -> OfferedValue:
    return OfferedValue(value.code, value.label, value.swatch, effect, value.note)


def check_option(option: Option, defs: Known) -> None:
    """Whether an option is sound. Raises Refusal with its place: `key`, `required`, `long`, `option_kind`, `limit…`,
    `unknown_value_list`, `unknown_value`, `code…`, `label_twice`, `choice`, or of an effect."""
    if option.kind not in OPTION_KINDS:
        raise Refusal("option_kind", f"There is no kind of option {option.kind[:40]}", ("kind",), "Choose another")
    if not KEY.fullmatch(option.key):
        words = f"“{option.key[:60]}” can't be a key"
        raise Refusal("key", words, ("key",), "Small letters, digits and underscores, a letter first, at most 60")
    if not option.name.strip():
        raise Refusal("required", "An option needs a name", ("name",), "Type what shoppers read")
    for member, most in (("name", 80), ("description", LONGEST_DESCRIPTION), ("default", LONGEST_DEFAULT)):
        if len(getattr(option, member)) > most:
            raise Refusal("long", f"At most {most} characters fit", (member,), "Shorten it")
    check_limits(option.limits, option.rules.limits, f"“{option.rules.name}”")
    if option.rules.chooses:
        _check_values(option, defs)
    elif option.values or option.listed:
        raise Refusal("option_kind", "Nothing is chosen of such an option", ("values",), "Take its values off")
    try:
        check_effect(option.effect)
    except Refusal as refusal:
        raise refusal.at("effect") from None
    _check_default(option, defs)


def _check_values(option: Option, defs: Known) -> None:
    if len(option.values) > MOST_VALUES:
        raise Refusal("too_many", f"An option holds at most {MOST_VALUES} values", ("values",), "Split it in two")
    if option.listed and option.list not in defs.lists:
        raise Refusal("unknown_value_list", "Choose the value list", ("list",), "Choose one, or type values here")
    if not option.listed and option.list:
        raise Refusal("option_kind", "Values of its own come from no list", ("list",), "Leave the list out")
    codes: set[str] = set()
    labels: set[str] = set()
    known = defs.lists[option.list].by_code if option.listed else {}
    for index, value in enumerate(option.values):
        try:
            _check_value(option, value, known, codes, labels)
        except Refusal as refusal:
            raise refusal.at("values", index) from None
        codes.add(value.code)
        labels.add(fold(value.label))


def _check_value(
    option: Option, value: OptionValue, known: Mapping[str, ListValue], codes: set[str], labels: set[str]
) -> None:
    if value.code in codes:
        raise Refusal("code_twice", f"Two values have the code {value.code}", ("code",), "Change one")
    try:
        check_effect(value.effect)
    except Refusal as refusal:
        raise refusal.at("effect") from None
    if option.listed:
        if value.code not in known:
            raise Refusal("unknown_value", f"The list has no value {value.code[:60]}", ("code",), "Take it off")
        if value.label or value.swatch != Swatch():
            raise Refusal("option_kind", "Its label and swatch are the list's", ("label",), "Change them in the list")
        return
    if not CODE.fullmatch(value.code):
        words = f"“{value.code[:60]}” can't be a code"
        raise Refusal("code", words, ("code",), "Use small letters, digits, hyphen and underscore, at most 60")
    if not value.label.strip():
        raise Refusal("required", "A value needs a label", ("label",), "Type what shoppers read")
    if len(value.label) > 200:
        raise Refusal("long", "At most 200 characters fit", ("label",), "Shorten it")
    if fold(value.label) in labels:
        raise Refusal("label_twice", f"“{value.label}” stands here twice", ("label",), "Change one")
    check_swatch(value.swatch)


def _check_default(option: Option, defs: Known) -> None:
    if not option.default:
        return
    if not option.rules.default:
        raise Refusal("choice", "Nothing can be chosen beforehand here", ("default",), "Leave it out")
    if option.rules.chooses and option.default not in {value.code for value in offered_values(option, defs.lists)}:
        raise Refusal("choice", "What is chosen beforehand is not offered", ("default",), "Choose another, or none")


def with_values(option: Option, items: Mapping[Any, Any]) -> Option:
    """An option with other values of its list in place of some; of two that come to the same the one that stood for it already stays,
    with what it does."""
    own = {value.code for value in option.values if value.code not in items}
    found: dict[str, OptionValue] = {}
    for value in option.values:
        code = str(items.get(value.code, value.code))
        if value.code == code or code not in own:
            found.setdefault(code, replace(value, code=code))
    default = str(items.get(option.default, option.default))
    return replace(option, values=tuple(found.values()), default=default)

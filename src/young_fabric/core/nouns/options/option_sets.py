"""Option sets: what shoppers choose of products, offered through types, by a condition and by hand."""

from __future__ import annotations

from collections.abc import Collection, Iterable, Iterator, Mapping
from dataclasses import dataclass, fields, replace
from typing import Any, Literal

from young_fabric.core.base.errors import Refusal
from young_fabric.core.base.shapes import STRICT
from young_fabric.core.kinds.base import Items, Target, in_words
from young_fabric.core.nouns.base import (
    Bearing,
    Calling,
    Known,
    Noun,
    Reference,
    Referring,
    Sent,
    State,
    Stored,
    Telling,
    Within,
)
from young_fabric.core.nouns.content.collections import BY_HAND, by_hand_words, check_by_hand
from young_fabric.core.nouns.fields.built_in import BUILT_IN
from young_fabric.core.nouns.fields.conditions import (
    condition_words,
    read_condition,
    refers_of_condition,
    renamed_field,
    with_asked,
)
from young_fabric.core.nouns.lists.value_lists import NOUN as VALUE_LIST
from young_fabric.core.nouns.options.effects import FIGURES, effect_of, effect_words, read_effect
from young_fabric.core.nouns.options.options import Option, OptionValue, check_option, with_values

OPTION_SETS = "option_set"
LISTS = VALUE_LIST.code
MOST_OPTIONS = 20
MOST_LEFT_OUT = 500
LONGEST_SEPARATOR = 3
Counts = Literal["add", "replace"]
Policy = Literal["keep", "extend", "replace"]
LeaveOut = Mapping[str, tuple[str, ...]]
_COUNTS = {"add": "added to the product's", "replace": "in place of the product's"}
_POLICIES = {"keep": "the product's", "extend": "the product's with parts", "replace": "made of parts alone"}


@dataclass(frozen=True)
class OptionSet:
    """Options in order, and combinations left out. For price, weight and cost it says whether what its choices do adds to the
    product's own or stands in its place; for the SKU whether that is kept, extended or replaced. It is offered through types,
    to products that meet the condition and are not kept out by hand, and to those put in by hand."""

    __pydantic_config__ = STRICT
    key: str
    name: str
    options: tuple[Option, ...] = ()
    left_out: tuple[LeaveOut, ...] = ()
    price: Counts = "add"
    weight: Counts = "add"
    cost: Counts = "add"
    sku: Policy = "extend"
    separator: str = "-"
    condition: Mapping[str, Any] | None = None
    picked: tuple[int, ...] = ()
    kept_out: tuple[int, ...] = ()

    @property
    def makes_variants(self) -> bool:
        """Whether any of its options does."""
        return any(option.rules.makes_variants for option in self.options)


def check_option_set(options: OptionSet, defs: Known) -> None:
    """Raises Refusal with its place: `required`, `long`, `too_many`, `twice`, `pattern`, `unknown_option`, `unknown_value`,
    `condition`, or of its options."""
    if not options.name.strip():
        raise Refusal("required", "An option set needs a name", ("name",), "Type a name")
    if len(options.name) > 80:
        raise Refusal("long", "At most 80 characters fit", ("name",), "Shorten it")
    if len(options.options) > MOST_OPTIONS:
        raise Refusal("too_many", f"A set holds at most {MOST_OPTIONS} options", ("options",), "Make two sets")
    if len(options.separator) > LONGEST_SEPARATOR or any(sign not in "._/-" for sign in options.separator):
        raise Refusal("pattern", "Parts of a SKU stand apart by . _ / or -", ("separator",), "Such as -")
    keys: set[str] = set()
    for index, option in enumerate(options.options):
        try:
            check_option(option, defs)
            if option.key in keys:
                raise Refusal("twice", f"Two options have the key {option.key}", ("key",), "Change one")
        except Refusal as refusal:
            raise refusal.at("options", index) from None
        keys.add(option.key)
    for member in BY_HAND:
        check_by_hand(getattr(options, member), member)
    _check_left_out(options)
    if options.condition is not None:
        try:
            read = read_condition(options.condition, defs)
        except Refusal as refusal:
            raise refusal.at("condition") from None
        if read != options.condition:
            raise Refusal("condition", "The condition is not as it is kept", ("condition",), "Make it anew")


def _check_left_out(options: OptionSet) -> None:
    """Rules name options that make variants. Values they name may be gone for now: they leave nothing out then."""
    if len(options.left_out) > MOST_LEFT_OUT:
        words = f"A set has at most {MOST_LEFT_OUT} rules of what is left out"
        raise Refusal("too_many", words, ("left_out",), "Put several values in one rule")
    known = {option.key for option in options.options if option.rules.makes_variants}
    for index, rule in enumerate(options.left_out):
        for key, codes in rule.items():
            if key not in known:
                raise Refusal(
                    "unknown_option", f"No option {key[:60]} makes variants", ("left_out", index, key), "Take it off"
                )
            if not codes:
                raise Refusal("required", "A rule names at least one value", ("left_out", index, key), "Choose one")
        if not rule:
            raise Refusal("required", "A rule names at least one option", ("left_out", index), "Take it off")


def read_typed(options: OptionSet, defs: Known) -> OptionSet:
    """A set with what was typed in its effects and its condition read. Raises Refusal with its place."""
    locale, currency = defs.shop.locale, defs.shop.currency
    read = []
    for at, option in enumerate(options.options):
        where: tuple[str | int, ...] = ("options", at, "effect")
        try:
            effect = read_effect(option.effect, locale, currency)
            values = []
            for index, value in enumerate(option.values):
                where = ("options", at, "values", index, "effect")
                values.append(replace(value, effect=read_effect(value.effect, locale, currency)))
        except Refusal as refusal:
            raise refusal.at(*where) from None
        read.append(replace(option, effect=effect, values=tuple(values)))
    condition = options.condition
    if condition is not None:
        try:
            condition = read_condition(condition, defs)
        except Refusal as refusal:
            raise refusal.at("condition") from None
    left_out = tuple({key: tuple(codes) for key, codes in rule.items()} for rule in options.left_out)
    return replace(options, options=tuple(read), condition=condition, left_out=left_out)


def _refers(options: OptionSet) -> Iterable[Reference]:
    for index, option in enumerate(options.options):
        if option.listed:
            yield Reference(LISTS, option.list, f"options/{index}")
    yield from refers_of_condition(options.condition, BUILT_IN, "condition")


def _describe(before: State, after: State, defs: Known) -> list[str]:
    out = []
    old = {option["key"]: option for option in before["options"]}
    new = {option["key"]: option for option in after["options"]}
    added = [option["name"] for key, option in new.items() if key not in old]
    gone = [option["name"] for key, option in old.items() if key not in new]
    out += [f"option {name} added" for name in added] + [f"option {name} taken away" for name in gone]
    for key, option in new.items():
        if key in old and old[key] != option:
            out += [f"{option['name']}: {words}" for words in _option_words(old[key], option, defs)]
    if [key for key in old if key in new] != [key for key in new if key in old]:
        out.append("order of options changed")
    if before["left_out"] != after["left_out"]:
        out.append("what is left out changed")
    for figure in FIGURES:
        if before[figure] != after[figure]:
            out.append(f"{figure} is {_COUNTS.get(after[figure], after[figure])}")
    if before["sku"] != after["sku"]:
        out.append(f"SKU is {_POLICIES.get(after['sku'], after['sku'])}")
    if before["condition"] != after["condition"]:
        out.append(f"offered to: {condition_words(after['condition'], defs)}")
    out += by_hand_words(before, after)
    for member in ("name", "separator"):
        if before[member] != after[member]:
            out.append(f"{member} {in_words(before[member])} → {in_words(after[member])}")
    return out or ["no difference"]


def _option_words(before: State, after: State, defs: Known) -> list[str]:
    """What changed of one option, the weightiest first."""
    out = []
    old = {value["code"]: value for value in before["values"]}
    new = {value["code"]: value for value in after["values"]}
    names = {**_names(before, defs), **_names(after, defs)}
    for codes, words in (
        ([code for code in new if code not in old], "added"),
        ([code for code in old if code not in new], "taken off"),
    ):
        if codes:
            shown = ", ".join(names.get(code, code) for code in codes[:4])
            out.append(f"{shown}{'…' if len(codes) > 4 else ''} {words}")
    locale, currency = defs.shop.locale, defs.shop.currency
    for code, value in new.items():
        if code in old and old[code].get("effect") != value.get("effect"):
            words = effect_words(effect_of(value.get("effect")), locale, currency)
            out.append(f"{names.get(code, code)} {words or 'does nothing'}")
    if before.get("effect") != after.get("effect"):
        out.append(effect_words(effect_of(after.get("effect")), locale, currency) or "does nothing")
    if [code for code in old if code in new] != [code for code in new if code in old]:
        out.append("order of values changed")
    for member in ("name", "kind", "description", "required", "default", "takes", "list", "limits"):
        if before.get(member) != after.get(member):
            out.append(f"{member} {in_words(before.get(member))} → {in_words(after.get(member))}")
    return out or ["values changed"]


def _names(option: State, defs: Known) -> Mapping[str, str]:
    found = {value["code"]: value["label"] for value in option["values"] if value.get("label")}
    values = defs.lists.get(option.get("list") or "")
    return found if values is None else {code: value.label for code, value in values.by_code.items()}


def _with_items(options: OptionSet, target: Target, items: Items, defs: Known) -> OptionSet:
    """Values of a list in its options, in what is left out, and in its condition."""
    noun, key = target
    changed = {option.key for option in options.options if option.listed and (noun, key) == (LISTS, option.list)}
    made = tuple(with_values(option, items) if option.key in changed else option for option in options.options)
    rules = tuple(
        {
            name: tuple(dict.fromkeys(str(items.get(code, code)) for code in codes)) if name in changed else codes
            for name, codes in rule.items()
        }
        for rule in options.left_out
    )
    condition = options.condition
    if condition is not None:
        asked = {name for name, field in defs.all_fields.items() if field.own and field.paths(target)}
        condition = with_asked(condition, asked, items)
    return replace(options, options=made, left_out=rules, condition=condition)


def _with_field(options: OptionSet, field: str, into: str) -> OptionSet:
    return replace(options, condition=options.condition and renamed_field(options.condition, field, into))


def _without_files(options: OptionSet, files: Collection[str]) -> OptionSet:
    def bare(value: OptionValue) -> OptionValue:
        gone = value.swatch.picture in files
        return replace(value, swatch=replace(value.swatch, picture="")) if gone else value

    made = (replace(option, values=tuple(map(bare, option.values))) for option in options.options)
    return replace(options, options=tuple(made))


def swatch_pictures(options: OptionSet) -> dict[str, tuple[str | int, ...]]:
    """The stored pictures of its own values' swatches, each with its place."""
    return {
        value.swatch.picture: ("options", at, "values", index, "swatch", "picture")
        for at, option in enumerate(options.options)
        for index, value in enumerate(option.values)
        if value.swatch.picture
    }


def _note(options: OptionSet, defs: Known) -> str:  # noqa: ARG001
    return ", ".join(option.name for option in options.options)[:80]


def _within(options: OptionSet) -> Iterator[Within]:
    for option in options.options:
        at = f"{options.key}/{option.key}"
        yield Within("option", at, option.name, (option.key,), options.name)
        for value in option.values:
            if value.label:
                yield Within(
                    "option", f"{at}/{value.code}", value.label, (value.code,), f"{options.name}: {option.name}"
                )


NOUN = Noun(
    code=OPTION_SETS,
    plural="option_sets",
    name="option set",
    group="What it is",
    type=OptionSet,
    check=check_option_set,
    blank=lambda key, name, _defs: OptionSet(key, name),
    bearing=Bearing(offers=True, gathers=True, unplanned=frozenset(member.name for member in fields(OptionSet))),
    telling=Telling(describe=_describe),
    referring=Referring(refers=_refers, with_items=_with_items, with_field=_with_field),
    stored=Stored(keyed={"options": "key", "options/*/values": "code", "picked": "", "kept_out": ""}),
    calling=Calling(note=_note, within=_within, own_alone=frozenset({"condition", *BY_HAND})),
    sent=Sent(
        local=frozenset(BY_HAND), files=lambda thing: tuple(swatch_pictures(thing)), without_files=_without_files
    ),
)

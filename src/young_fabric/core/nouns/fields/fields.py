"""Fields: what can be recorded about a product, defined once."""

from __future__ import annotations

from collections.abc import Iterable, Mapping
from dataclasses import dataclass, field, replace
from typing import Any, Literal

from young_fabric.core.base.errors import Refusal
from young_fabric.core.base.shapes import STRICT
from young_fabric.core.base.text import make_key
from young_fabric.core.display.surfaces import Surface
from young_fabric.core.kinds import KINDS, Kind, Spec
from young_fabric.core.kinds.base import Items, Judge, Part, Target, in_words
from young_fabric.core.kinds.counts import check_count
from young_fabric.core.kinds.limits import OF_MANY, UNIQUE, Limit, check_limits
from young_fabric.core.kinds.schema_org import PROPERTIES as SCHEMA_ORG
from young_fabric.core.nouns.base import Bearing, Calling, Known, Noun, Reference, Referring, State, Stored, Telling

Need = Literal["optional", "wanted", "required"]
Audience = Literal["shoppers", "feeds", "staff"]
Order = Literal["by_hand", "alphabetical"]
NEEDS: tuple[Need, ...] = ("optional", "wanted", "required")
AUDIENCES: tuple[Audience, ...] = ("shoppers", "feeds", "staff")
ORDERS: tuple[Order, ...] = ("by_hand", "alphabetical")
PRODUCTS = "product"
VARIANTS = "variant"
NO_NOUNS = [PRODUCTS, VARIANTS]
"""What fields can be recorded of that is no noun: a line for each of the registry of subjects."""
STAFF: Audience = "staff"
LONGEST_HELP = 400
_LONGEST = {"name": 80, "label": 120, "help": LONGEST_HELP, "example": 200}


@dataclass(frozen=True)
class Field:
    """One definition. `name` is for staff, `label` for shoppers; `options` are what its kind asks for besides.

    `many` holds several values in an order; `default` is a canonical value shown where a product has none; `subject` is what
    it is recorded of: products, or the things of a noun; `order` how several values stand, as they were put or by the shop's
    alphabet; `schema_org` the property of a schema.org Product it is, "" for none.
    """

    __pydantic_config__ = STRICT
    key: str
    name: str
    label: str
    kind: str
    many: bool = False
    options: Mapping[str, Any] = field(default_factory=dict)
    limits: Mapping[str, Any] = field(default_factory=dict)
    need: Need = "optional"
    audience: Audience = "shoppers"
    help: str = ""
    example: str = ""
    default: Any = None
    subject: str = PRODUCTS
    order: Order = "by_hand"
    schema_org: str = ""

    @property
    def known(self) -> bool:
        """Whether this version knows its kind: one of a later version is left unread."""
        return self.kind in KINDS

    @property
    def rules(self) -> Kind:
        """The kind's rules."""
        return KINDS[self.kind]

    @property
    def own(self) -> bool:
        """Whether it is one of the shop's own."""
        return True

    @property
    def derived(self) -> bool:
        """Whether it is computed and never filled."""
        return False

    @property
    def formats(self) -> frozenset[str]:
        """The codes of the format properties its values go by."""
        kind = self.rules
        return frozenset((*kind.formats, *(kind.formats_of_many if self.many or kind.several else ())))

    @property
    def picked(self) -> bool:
        """No option."""
        return False

    def takes(self, code: str) -> bool:  # noqa: ARG002
        """Whether a property can mean anything for it: its kind and the surface decide."""
        return True

    def shown_by_default(self, surface: Surface) -> bool:
        """Whether a surface shows it unless set otherwise."""
        return surface.shows_by_default

    def named(self, noun: str) -> tuple[str, ...]:
        """The keys of a noun that its options name."""
        return tuple(naming.key for naming in self.rules.named(self.options) if naming.noun == noun)

    def containing(self, target: Target, item: Any) -> tuple[Any, ...]:
        """JSON patterns, one of which a stored value contains that names an item of a definition."""
        patterns = self.rules.containing(self.options, target, item)
        return tuple([pattern] for pattern in patterns) if self.many else patterns

    def paths(self, target: Target) -> tuple[str, ...]:
        """Where in stored values items of a definition stand, as SQL/JSON paths from a thing's values."""
        ends = self.rules.paths(self.options, target)
        return tuple(f'$."{self.key}"{"[*]" if self.many else ""}{end}' for end in ends)

    @property
    def targets(self) -> tuple[Target, ...]:
        """What the things are of that its values name."""
        return self.rules.targets(self.options)

    def items(self, value: Any) -> Iterable[tuple[Target, Any]]:
        """The things that any stored value names, each with what it is of."""
        values = value if self.many and isinstance(value, list) else [value]
        return (
            found for item in values if self.rules.well_formed(item) for found in self.rules.items(item, self.options)
        )

    def with_items(self, value: Any, target: Target, items: Items) -> Any:
        """A stored value with other items in place of some of a definition."""
        if self.many and isinstance(value, list):
            changed = [self.rules.with_items(item, self.options, target, items) for item in value]
            return (
                changed
                if changed == value
                else [item for index, item in enumerate(changed) if item not in changed[:index]]
            )
        return self.rules.with_items(value, self.options, target, items)


def stricter(need: Need, other: Need) -> Need:
    """The stricter of two needs."""
    return NEEDS[max(NEEDS.index(need), NEEDS.index(other))]


def spec_of(definition: Field, defs: Known) -> Spec:
    """All the field's kind must know."""
    spec = _spec(definition.rules, definition.limits, definition.options, defs)
    return replace(spec, alphabetical=True) if definition.order == "alphabetical" else spec


def _spec(kind: Kind, limits: Mapping[str, Any], options: Mapping[str, Any], defs: Known) -> Spec:
    columns = kind.columns(options)
    parts = tuple(Part(column, _spec(column.kind, column.limits, column.options, defs)) for column in columns)
    target = kind.chosen(options)
    choices = defs.choices(target) if target is not None else None
    return Spec(limits, options, choices, defs.shop.locale, defs.shop.currency, parts)


def judge_of(definition: Field, spec: Spec) -> Judge:
    """A function that says what is wrong with any JSON value as the field's, None when it is good; never raises."""
    judge_item = definition.rules.judge(spec)
    if not definition.many:
        return judge_item
    shape = Refusal("shape", f"not values of kind {definition.rules.name}", help="Type them anew")

    def judge(value: Any) -> Refusal | None:
        if not isinstance(value, list) or not value:
            return shape
        for index, item in enumerate(value):
            wrong = judge_item(item)
            if wrong:
                return wrong.at(index)
        return check_count(len(value), definition.limits)

    return judge


def check_field(definition: Field, defs: Known) -> None:
    """Whether a definition is sound. Raises Refusal with the member in `where`."""
    for member, longest in _LONGEST.items():
        if len(getattr(definition, member)) > longest:
            raise Refusal("long", f"At most {longest} characters fit", (member,), "Shorten it")
    for member in ("name", "label"):
        if not getattr(definition, member).strip():
            raise Refusal("required", f"A field needs a {member}", (member,), "Type one")
    prefix = defs.shop.prefix
    if definition.own and not definition.key.startswith(prefix):
        raise Refusal(
            "key", f"Keys of your own fields begin with {prefix}", ("key",), f"Write {prefix}{definition.key}"
        )
    if definition.kind not in KINDS or (definition.own and not KINDS[definition.kind].own_fields):
        raise Refusal("kind", f"There is no kind “{definition.kind}”", ("kind",), "Choose one of the kinds offered")
    for member, known in (("need", NEEDS), ("audience", AUDIENCES), ("order", ORDERS)):
        if getattr(definition, member) not in known:
            raise Refusal("unknown", "Not one of the choices", (member,), "Choose one of those offered")
    if definition.subject not in defs.subjects:
        raise Refusal("unknown", "Nothing of the sort has fields", ("subject",), "Choose one of those offered")
    _check_schema_org(definition)
    _check_options(definition, defs)
    check_limits(definition.limits, allowed_limits(definition), definition.rules.name)
    _check_default(definition, defs)


def _check_schema_org(definition: Field) -> None:
    if not definition.own or not definition.schema_org:
        return
    found = SCHEMA_ORG.get(definition.schema_org)
    if found is None or found.shape not in definition.rules.shapes:
        words = (
            f"A field of kind {definition.rules.name} can't be {found.label if found else definition.schema_org[:40]}"
        )
        raise Refusal("schema_org", words, ("schema_org",), "Choose one of those offered, or none")


def _check_options(definition: Field, defs: Known) -> None:
    kind = definition.rules
    if definition.many and not kind.takes_many:
        raise Refusal("many", f"A field of kind {kind.name} holds one value", ("many",), "Choose one value")
    known = {option.code for option in kind.options}
    for code in definition.options:
        if code not in known:
            raise Refusal(code, f"A field of kind {kind.name} has no {code}", ("options", code), "Take it away")
    for option in kind.options:
        wrong = option.check(definition.options.get(option.code))
        if wrong:
            raise wrong.at("options", option.code)
    for naming in kind.named(definition.options):
        if naming.key not in defs.things[naming.noun]:
            code = str(naming.where[-1])
            raise Refusal(code, naming.missing, ("options", *naming.where), "Choose one, or make one")


def _check_default(definition: Field, defs: Known) -> None:
    if definition.default is None:
        return
    if definition.limits.get(UNIQUE.code):
        raise Refusal("default", "What no two products share has no default", ("default",), "Take it away")
    if not definition.rules.takes_default:
        words = f"A field of kind {definition.rules.name} has no default"
        raise Refusal("default", words, ("default",), "Take it away")
    wrong = judge_of(definition, spec_of(definition, defs))(definition.default)
    if wrong:
        raise Refusal(wrong.code, f"The default: {wrong.message}", ("default",), wrong.help)


def allowed_limits(definition: Field) -> tuple[Limit, ...]:
    """The limits a field of this kind, holding one or many, can have."""
    kind = definition.rules
    single = not definition.many and definition.subject == PRODUCTS
    own = [limit for limit in kind.limits if single or not limit.alone]
    return tuple(dict.fromkeys((*own, *(OF_MANY if definition.many else ()))))


def _blank(key: str, name: str, defs: Known) -> Field:  # noqa: ARG001
    return Field(key, name, name, next(iter(KINDS)))


def _own_key(name: str, defs: Known, noun: str) -> str:  # noqa: ARG001
    return make_key(name, defs.shop.prefix, defs.all_fields)


def _refers(definition: Field) -> Iterable[Reference]:
    for naming in definition.rules.named(definition.options):
        yield Reference(naming.noun, naming.key, ".".join(map(str, ("options", *naming.where))))


def _limit_words(value: Any) -> str:
    if isinstance(value, list | tuple):
        return ", ".join(map(str, value))
    return "not limited" if value is None else str(value)


def _describe(before: State, after: State, defs: Known) -> list[str]:
    old, new = before.get("limits") or {}, after.get("limits") or {}
    names = {limit.code: limit.label for kind in KINDS.values() for limit in (*kind.limits, *OF_MANY)}
    out = [
        f"{words} {_limit_words(old.get(code))} → {_limit_words(new.get(code))}"
        for code, words in names.items()
        if old.get(code) != new.get(code)
    ]
    if before.get("kind") != after.get("kind"):
        named = [KINDS[code].name if code in KINDS else code for code in (str(s.get("kind")) for s in (before, after))]
        out.append(f"kind “{named[0]}” → “{named[1]}”")
    members = {"name": "name", "label": "label", "need": "need", "audience": "for"}
    members |= {
        "many": "several values",
        "order": "order of values",
        "schema_org": "in structured data",
        "help": "help",
        "example": "example",
    }
    out += [
        f"{words} {in_words(before.get(member))} → {in_words(after.get(member))}"
        for member, words in members.items()
        if before.get(member) != after.get(member)
    ]
    out += _describe_options(before.get("options") or {}, after.get("options") or {}, defs)
    if before.get("default") != after.get("default"):
        words = _kind_words(before, before.get("default")), _kind_words(after, after.get("default"))
        out.append(f"default {words[0]} → {words[1]}")
    return out or ["no difference"]


def _kind_words(state: State, value: Any) -> str:
    kind = KINDS.get(str(state.get("kind")))
    if value is None or kind is None:
        return in_words(value)
    return kind.words_of(value) if isinstance(value, list) else kind.words(value)


def _describe_options(before: Mapping[str, Any], after: Mapping[str, Any], defs: Known) -> list[str]:
    options = {option.code: option for kind in KINDS.values() for option in kind.options}

    def named(code: str, value: Any) -> str:
        noun = options[code].noun if code in options else None
        thing = defs.things[noun].get(value) if noun and isinstance(value, str) else None
        return in_words(thing.name if thing is not None else value)

    return [
        f"{options[code].label if code in options else code} {named(code, before.get(code))} → {named(code, after.get(code))}"
        for code in sorted({*before, *after})
        if before.get(code) != after.get(code)
    ]


def _options_apart(state: dict[str, Any]) -> dict[str, Any]:
    """Format 1 had unit and list as members, every limit by name, and said whether the field is the shop's own."""
    apart = {name: state.get(name) for name in ("unit", "list")}
    limits = {name: value for name, value in (state.get("limits") or {}).items() if value not in (None, False)}
    rest = {name: value for name, value in state.items() if name not in ("unit", "list", "own")}
    limits.pop("required", None)
    return {**rest, "options": {name: value for name, value in apart.items() if value is not None}, "limits": limits}


NOUN = Noun(
    code="field",
    plural="fields",
    name="field",
    group="What it is",
    type=Field,
    check=check_field,
    blank=_blank,
    telling=Telling(describe=_describe),
    bearing=Bearing(judges=True, field_of_key=lambda key: key, unplanned=frozenset({"help", "example", "schema_org"})),
    referring=Referring(
        refers=_refers,
        with_items=lambda thing, target, items, _defs: replace(
            thing, default=thing.with_items(thing.default, target, items)
        ),
    ),
    calling=Calling(key=_own_key, note=lambda thing, _defs: str(thing.key)),
    stored=Stored(format=2, upgrades={1: _options_apart}),
)

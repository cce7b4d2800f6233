"""All definitions of a shop at one moment, as the chain from definitions to a page reads them."""

from __future__ import annotations

from collections import defaultdict
from collections.abc import Iterable, Mapping
from dataclasses import dataclass, field, replace
from functools import cached_property
from types import MappingProxyType
from typing import Any

from young_fabric.core.base.errors import Refusal
from young_fabric.core.base.hashes import content_hash
from young_fabric.core.base.shop import Shop
from young_fabric.core.definitions.groups import Group
from young_fabric.core.definitions.reach import Reach
from young_fabric.core.display.cascade import Cascade, Chain, DisplaySetting, Scope
from young_fabric.core.display.layouts import Arrangement
from young_fabric.core.display.related import SAME
from young_fabric.core.display.surfaces import Surface
from young_fabric.core.kinds import Spec
from young_fabric.core.kinds.base import Choices, Target
from young_fabric.core.kinds.limits import UNIQUE
from young_fabric.core.nouns.base import Reference, state_of
from young_fabric.core.nouns.content.record_types import RECORDS
from young_fabric.core.nouns.fields.built_in import BUILT_IN, TITLE
from young_fabric.core.nouns.fields.fields import NO_NOUNS, PRODUCTS, STAFF, Field, spec_of
from young_fabric.core.nouns.layouts.layouts import Layout, all_layouts, arrange
from young_fabric.core.nouns.lists.value_lists import ValueList
from young_fabric.core.nouns.options.option_sets import OptionSet
from young_fabric.core.nouns.registry import NOUNS
from young_fabric.core.nouns.types.field_sets import FieldSet
from young_fabric.core.nouns.types.product_types import EffectiveField, ProductType, ancestry, effective_fields

UNRENDERED = frozenset({"name", "label", "need", "audience", "help", "example", "shown", "schema_org", "default"})
"""Members of a field that decide nothing of how its values render, or only whether and under which label, or in whose place."""
Referrer = tuple[str, str, Reference]
"""(noun, key) of a thing that refers to another, and how."""
NONE: Mapping[str, Any] = MappingProxyType({})


class _Things(dict[str, Mapping[str, Any]]):
    def __missing__(self, noun: str) -> Mapping[str, Any]:
        return NONE


@dataclass(frozen=True)
class Definitions:
    """Things by noun and key, and the shop. What is said for single products is not among them.

    `marks` are hashes of what pages take from things, worked out once for things that stay the same.
    """

    shop: Shop
    things: Mapping[str, Mapping[str, Any]] = field(default_factory=_Things)
    marks: dict[tuple[str, str], tuple[Any, str]] = field(default_factory=dict, compare=False, repr=False)

    def __post_init__(self) -> None:
        if not isinstance(self.things, _Things):
            object.__setattr__(self, "things", _Things(self.things))

    @property
    def fields(self) -> Mapping[str, Field]:
        """The shop's own fields."""
        return self.things["field"]

    @property
    def lists(self) -> Mapping[str, ValueList]:
        """Value lists."""
        return self.things["value_list"]

    @property
    def sets(self) -> Mapping[str, FieldSet]:
        """Field sets."""
        return self.things["field_set"]

    @property
    def types(self) -> Mapping[str, ProductType]:
        """Product types."""
        return self.things["product_type"]

    @property
    def option_sets(self) -> Mapping[str, OptionSet]:
        """Option sets."""
        return self.things["option_set"]

    @property
    def settings(self) -> Mapping[str, DisplaySetting]:
        """Display settings, those of single products left out."""
        return self.things["display_setting"]

    @cached_property
    def layouts(self) -> Mapping[str, Layout]:
        """The layouts the core brings, and the shop's own."""
        return all_layouts(self.things["layout"])

    @cached_property
    def _arrangements(self) -> dict[str, Arrangement]:
        return {}

    def arrangement(self, key: str, surface: Surface) -> Arrangement:
        """A layout with all its steps taken, worked out once; that of the surface where there is no such layout, or none that
        can be worked out."""
        name = key if key in self.layouts else surface.layout
        found = self._arrangements.get(name)
        if found is None:
            try:
                found = arrange(self.layouts, name)
            except Refusal:
                found = arrange(self.layouts, surface.layout)
            self._arrangements[name] = found
        return found

    @cached_property
    def product_fields(self) -> Mapping[str, Field]:
        """The shop's own fields of products."""
        return {key: field for key, field in self.fields.items() if field.subject == PRODUCTS}

    @cached_property
    def all_fields(self) -> Mapping[str, Field]:
        """The fields of products, built-in ones and own."""
        own = {key: field for key, field in self.product_fields.items() if key not in BUILT_IN}
        return {**BUILT_IN, **own}

    def fields_of(self, subject: str) -> Mapping[str, Field]:
        """The fields of products, or of a noun whose things hold values: those all have, and own ones for it by name."""
        if subject == PRODUCTS:
            return self.all_fields
        own = sorted(
            (field for field in self.fields.values() if field.subject == subject), key=lambda field: field.name
        )
        holds = NOUNS[subject].holding.fields if subject in NOUNS else None
        return {**(holds or {}), **{field.key: field for field in own}}

    def fields_of_thing(self, noun: str, thing: Any) -> Mapping[str, Field]:
        """The fields of one thing of a noun whose things hold values."""
        own = NOUNS[noun].holding.own_fields
        return self.fields_of(noun) if own is None else own(thing, self)

    @cached_property
    def _records(self) -> Mapping[str, Mapping[str, Any]]:
        found: dict[str, dict[str, Any]] = defaultdict(dict)
        for key, record in self.things["record"].items():
            found[record.type][key] = record
        return found

    def records_of(self, record_type: str) -> Mapping[str, Any]:
        """The records of a type, by key."""
        return self._records.get(record_type, NONE)

    @cached_property
    def unique(self) -> tuple[str, ...]:
        """The shop's own fields of which no two products have the same value."""
        return tuple(key for key, field in self.product_fields.items() if field.limits.get(UNIQUE.code))

    @cached_property
    def naming(self) -> Mapping[str, Field]:
        """The fields of products whose values name things of the shop."""
        return {key: field for key, field in self.product_fields.items() if field.targets}

    @cached_property
    def _naming_of(self) -> dict[Group, tuple[Field, ...]]:
        return {}

    def naming_of(self, group: Group) -> tuple[Field, ...]:
        """The fields of products of a group whose values name things, those for staff left out."""
        found = self._naming_of.get(group)
        if found is None:
            fields = (effective.field for effective in self.applicable(group)) if self.naming else ()
            found = tuple(field for field in fields if field.targets and field.audience != STAFF)
            self._naming_of[group] = found
        return found

    @cached_property
    def _choices(self) -> dict[Target, Choices | None]:
        return {}

    def choices(self, target: Target) -> Choices | None:
        """What values can be chosen of a definition, None where it has none; worked out once."""
        if target not in self._choices:
            noun = NOUNS.get(target[0])
            self._choices[target] = None if noun is None else noun.chosen.choices(target[1], self)
        return self._choices[target]

    @cached_property
    def subjects(self) -> tuple[str, ...]:
        """What fields can be defined for."""
        return (*NO_NOUNS, *(noun.code for noun in NOUNS.values() if noun.holding.fields is not None))

    @cached_property
    def cascade(self) -> Cascade:
        """The settings, indexed."""
        return Cascade(self.settings.values())

    @cached_property
    def settings_by_scope(self) -> Mapping[str, tuple[str, ...]]:
        """Scope → keys of the settings said for it."""
        found: dict[str, list[str]] = defaultdict(list)
        for key, setting in self.settings.items():
            found[str(setting.scope)].append(key)
        return {scope: tuple(sorted(keys)) for scope, keys in found.items()}

    @cached_property
    def _effective(self) -> dict[tuple[str, tuple[str, ...]], tuple[EffectiveField, ...]]:
        return {}

    @cached_property
    def limited_sets(self) -> Mapping[str, tuple[str, ...]]:
        """Collection → the sets limited to it."""
        found: dict[str, list[str]] = defaultdict(list)
        for key in sorted(self.sets):
            for collection in self.sets[key].collections:
                found[collection].append(key)
        return {collection: tuple(keys) for collection, keys in found.items()}

    def effective(self, type_key: str) -> tuple[EffectiveField, ...]:
        """The fields of a type, worked out once."""
        return self.applicable(Group(type_key))

    def applicable(self, group: Group) -> tuple[EffectiveField, ...]:
        """The fields of products, or of records, of a group, worked out once."""
        if group.of != PRODUCTS:
            return self._of_records(group.type)
        telling = tuple(key for key in group.collections if key in self.limited_sets or key in self.wording)
        found = self._effective.get((group.type, telling))
        if found is None:
            limiting = [key for key in telling if key in self.limited_sets]
            rows = effective_fields(group.type, self.types, self.sets, self.product_fields, limiting)
            known = [row for row in rows if row.field.known]
            found = self._effective[group.type, telling] = tuple(self._standing(row, telling) for row in known)
        return found

    def _of_records(self, record_type: str) -> tuple[EffectiveField, ...]:
        """What records are called, and the fields of their type."""
        sort = self.things["record_type"].get(record_type)
        known = self.fields_of(RECORDS)
        own = [known[key] for key in sort.fields if key in known and known[key].known] if sort is not None else []
        return tuple(
            EffectiveField(field, field.need, None, None, None, record_type=record_type)
            for field in (BUILT_IN[TITLE.key], *own)
        )

    def _standing(self, effective: EffectiveField, collections: tuple[str, ...]) -> EffectiveField:
        """A field with what stands where a product says nothing, for kinds whose fields have that from elsewhere."""
        target = effective.field.rules.chosen(effective.field.options)
        standing = effective.field.rules.standing(self.choices(target) if target is not None else None, collections)
        if standing is None:
            return effective
        value, origin = standing
        return replace(effective, field=replace(effective.field, default=value), default_from=origin)

    @cached_property
    def wording(self) -> frozenset[str]:
        """The collections that have words of their own for some shared copy."""
        return frozenset(key for copy in self.things["shared_copy"].values() for key in copy.own)

    @cached_property
    def holders(self) -> Mapping[str, Reach]:
        """Field → the types that have it, and the collections that bring it."""
        types: dict[str, set[str]] = defaultdict(set)
        for type_key in self.types:
            for effective in self.effective(type_key):
                types[effective.field.key].add(type_key)
        collections: dict[str, set[str]] = defaultdict(set)
        for collection, sets in self.limited_sets.items():
            for key in sets:
                for name in self.sets[key].fields:
                    collections[name].add(collection)
        return {key: Reach(frozenset(types[key]), frozenset(collections[key])) for key in {*types, *collections}}

    def spec(self, definition: Field) -> Spec:
        """All a field's kind must know."""
        return spec_of(definition, self)

    def chain(self, type_key: str) -> tuple[str, ...]:
        """A type and its ancestors, nearest first."""
        return ancestry(type_key, self.types)

    def cascade_chain(self, group: Group) -> Chain:
        """Whom the cascade is asked for, for products or records of a group."""
        if group.of != PRODUCTS:
            return Chain(record_type=group.type)
        return Chain(group.product, group.collections, self.chain(group.type))

    def group_of(self, type_key: str, collections: Iterable[str] = (), speaking: frozenset[str] | None = None) -> Group:
        """The group of products of a type in some collections: only those that say something tell groups apart.

        They stand in the order of the collections, whatever order they are given in. With `speaking` those tell groups
        apart instead: what two sets of definitions are compared by.
        """
        tells_apart = self.speaking if speaking is None else speaking
        order = self.collection_order
        found = sorted(
            (key for key in collections if key in tells_apart), key=lambda key: (order.get(key, len(order)), key)
        )
        return Group(type_key, tuple(found))

    @cached_property
    def speaking(self) -> frozenset[str]:
        """The collections that say something of their products: by settings or sets limited to them."""
        return frozenset(
            key
            for key in self.things["collection"]
            if key in self.limited_sets
            or key in self.wording
            or str(Scope("collection", key)) in self.settings_by_scope
        )

    @cached_property
    def alike(self) -> frozenset[str]:
        """The fields by which some layout finds products that have the same."""
        named = (
            key
            for layout in self.layouts.values()
            for _, said in layout.said_blocks()
            for key in SAME.fields(said.get(SAME.code))
        )
        known = self.all_fields
        return frozenset(key for key in named if key in known and known[key].audience != STAFF)

    @cached_property
    def collection_order(self) -> Mapping[str, int]:
        """Collection → its place among them all."""
        things = self.things["collection"]
        return {key: rank for rank, key in enumerate(sorted(things, key=lambda key: things[key].order_key))}

    def referrers(self, noun: str, key: str) -> tuple[Referrer, ...]:
        """What refers to a thing. What is filled in refers to what is defined, never to its like."""
        found = tuple(self._referrers(content=False).get((noun, key), ()))
        return found if NOUNS[noun].sent.content else (*found, *self._referrers(content=True).get((noun, key), ()))

    @cached_property
    def _known_referrers(self) -> dict[bool, dict[tuple[str, str], list[Referrer]]]:
        return {}

    def _referrers(self, *, content: bool) -> Mapping[tuple[str, str], Iterable[Referrer]]:
        found = self._known_referrers.get(content)
        if found is None:
            found = self._known_referrers[content] = defaultdict(list)
            for noun, things in self.things.items():
                for key, thing in things.items() if NOUNS[noun].sent.content == content else ():
                    for reference in NOUNS[noun].referring.refers(thing):
                        found[reference.noun, reference.key].append((noun, key, reference))
        return found

    def mark(self, noun: str, key: str) -> str:
        """A hash of what pages take from a thing, "" when there is none."""
        thing = self.things[noun].get(key)
        if thing is None:
            return ""
        known = self.marks.get((noun, key))
        if known is not None and known[0] is thing:
            return known[1]
        state = {name: value for name, value in state_of(thing).items() if name not in NOUNS[noun].bearing.unplanned}
        mark = content_hash(state)
        self.marks[noun, key] = (thing, mark)
        return mark

    @cached_property
    def _render_marks(self) -> dict[int, tuple[Field, str]]:
        return {}

    def render_mark(self, definition: Field) -> str:
        """A hash of all that decides how a field's values render, its settings and label aside."""
        known = self._render_marks.get(id(definition))
        if known is not None and known[0] is definition:
            return known[1]
        state = {name: value for name, value in state_of(definition).items() if name not in UNRENDERED}
        mark = content_hash([state, *_labels(self.spec(definition))])
        self._render_marks[id(definition)] = (definition, mark)
        return mark

    def having(self, noun: str, key: str, thing: Any | None) -> Definitions:
        """The same with one thing put in, or taken out when None."""
        return self.having_all([(noun, key, thing)])

    def having_all(self, changed: Iterable[tuple[str, str, Any | None]]) -> Definitions:
        """The same with things put in, or taken out where None: (noun, key, thing)."""
        things = dict(self.things)
        own: dict[str, dict[str, Any]] = {}
        for noun, key, thing in changed:
            if noun not in own:
                own[noun] = things[noun] = dict(self.things[noun])
            if thing is None:
                own[noun].pop(key, None)
            else:
                own[noun][key] = thing
        return Definitions(self.shop, _Things(things), dict(self.marks))


def _labels(spec: Spec) -> list[Any]:
    """What values, and cells of columns, that are chosen of a list show as."""
    labels = spec.choices.looks if spec.choices is not None else None
    return [labels, *[_labels(part.spec) for part in spec.parts]]

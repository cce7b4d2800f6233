"""Record types: sorts of things that products refer to, such as makers, each with fields of its own."""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import dataclass, replace

from young_fabric.core.base.errors import Refusal
from young_fabric.core.base.shapes import STRICT
from young_fabric.core.kinds.base import in_words
from young_fabric.core.nouns.base import (
    AsValue,
    Bearing,
    Calling,
    Known,
    Noun,
    Reference,
    Referring,
    State,
    Stored,
    Taking,
    Telling,
)
from young_fabric.core.nouns.named_choices import NamedChoices

MOST_FIELDS = 100
RECORDS = "record"


@dataclass(frozen=True)
class RecordType:
    """A sort of records with its fields in order; with `page` each record has a page in the shop."""

    __pydantic_config__ = STRICT
    key: str
    name: str
    fields: tuple[str, ...] = ()
    page: bool = False


def check_record_type(record_type: RecordType, defs: Known) -> None:
    """Raises Refusal: `required`, `long`, `too_many`, `twice`, `unknown_field`."""
    if not record_type.name.strip():
        raise Refusal("required", "A record type needs a name", ("name",), "Type a name, such as Maker")
    if len(record_type.name) > 80:
        raise Refusal("long", "At most 80 characters fit", ("name",), "Shorten it")
    if len(record_type.fields) > MOST_FIELDS:
        raise Refusal("too_many", f"A record type has at most {MOST_FIELDS} fields", ("fields",), "Take some off")
    if len(set(record_type.fields)) < len(record_type.fields):
        raise Refusal("twice", "A field stands here twice", ("fields",), "Keep one")
    known = defs.fields_of(RECORDS)
    for index, key in enumerate(record_type.fields):
        if key not in known:
            words = f"There is no field of records {key[:60]}"
            raise Refusal("unknown_field", words, ("fields", index), "Choose another, or make one")


def _describe(before: State, after: State, defs: Known) -> list[str]:
    known = defs.fields_of(RECORDS)
    old, new = before["fields"], after["fields"]

    def names(keys: Iterable[str]) -> str:
        return ", ".join(known[key].name if key in known else key for key in keys)

    added, gone = [key for key in new if key not in old], [key for key in old if key not in new]
    out = [f"fields added: {names(added)}"] if added else []
    out += [f"fields taken off: {names(gone)}"] if gone else []
    if [key for key in old if key in new] != [key for key in new if key in old]:
        out.append("order of fields changed")
    if before["page"] != after["page"]:
        out.append("records have a page in the shop" if after["page"] else "records have no page any more")
    if before["name"] != after["name"]:
        out.append(f"name {in_words(before['name'])} → {in_words(after['name'])}")
    return out or ["no difference"]


def _with_field(record_type: RecordType, field: str, into: str) -> RecordType:
    fields = dict.fromkeys(into if key == field else key for key in record_type.fields)
    return replace(record_type, fields=tuple(fields)) if field in record_type.fields else record_type


NOUN = Noun(
    code="record_type",
    plural="record_types",
    name="record type",
    group="What it is",
    type=RecordType,
    check=check_record_type,
    blank=lambda key, name, _defs: RecordType(key, name),
    telling=Telling(describe=_describe),
    referring=Referring(
        refers=lambda thing: [Reference("field", key, "fields", loose=True, apart=True) for key in thing.fields],
        without=lambda thing, reference: replace(
            thing, fields=tuple(key for key in thing.fields if key != reference.key)
        ),
        with_field=_with_field,
    ),
    stored=Stored(keyed={"fields": ""}),
    calling=Calling(note=lambda thing, _defs: f"{len(thing.fields)} fields{', with pages' if thing.page else ''}"),
    taking=Taking(members=lambda thing, field: {"fields": [*thing.fields, field]}, fields_of=RECORDS),
    chosen=AsValue(choices=lambda key, defs: NamedChoices(RECORDS, defs.records_of(key))),
    bearing=Bearing(unplanned=frozenset({"name", "fields", "page"})),
)

"""Record types, records, values that definitions hold of their own, and things to refer to, as the API takes and sends them."""

from __future__ import annotations

from typing import Annotated, Any

from pydantic import Field as Member

from young_fabric.core.nouns.content.record_types import RecordType
from young_fabric.core.nouns.content.records import Record
from young_fabric.web.schemas.common import In, Key, Out, Version
from young_fabric.web.schemas.nouns import ThingOut
from young_fabric.web.schemas.products import EditField


class RecordTypeOut(ThingOut):
    """A record type with how many records there are of it, the fields that choose of them, and of the values its records could have,
    how many they have."""

    thing: RecordType
    records: int
    fields: list[str]
    values: int
    filled: int


class RecordOut(ThingOut):
    """A record with the name of its type, and its address in the shop, "" when it has no page."""

    thing: Record
    type_name: str
    page: str
    required_missing: int


class RecordsQuery(In):
    """Of which type, by which words, and from which position on."""

    type: Key | None = None
    words: str = Member(default="", max_length=200)
    offset: Annotated[int, Member(ge=0, le=1_000_000)] = 0


class RecordsOut(Out):
    """A page of records, how many match, and where the next begins."""

    rows: list[RecordOut]
    total: int
    next: int | None


class ValuesIn(In):
    """Values of a thing's own fields as typed, from the version that was read."""

    version: Version
    values: dict[str, Any]


class OwnFieldsOut(Out):
    """A thing's own fields with their values."""

    version: int
    fields: list[EditField]


class ReferenceQuery(In):
    """Of what (a record type, where it is records), and by which words."""

    of: str = Member(default="", max_length=80)
    words: str = Member(default="", max_length=200)


class ReferenceOut(Out):
    """A thing that can be chosen: its key or number, its name, a word to tell it by."""

    item: str | int
    name: str
    note: str


class ReferencesOut(Out):
    """The first of the things that can be chosen."""

    choices: list[ReferenceOut]

"""Whether blocks of layouts are sound, and what of their words names fields."""

from __future__ import annotations

import re
from collections.abc import Iterator, Mapping
from typing import Any

from young_fabric.core.base.errors import Refusal
from young_fabric.core.base.wording.counting import counted
from young_fabric.core.base.wording.phrases import read_phrase
from young_fabric.core.display.block_members import CONDITION, PARTS, REGIONS, TAKES, WIDTHS, Member
from young_fabric.core.display.blocks import BLOCK_KINDS, COPY, WORDS, BlockKind
from young_fabric.core.display.layouts import MOST_DEEP, Arrangement, Json, read_takes
from young_fabric.core.nouns.base import Known
from young_fabric.core.nouns.fields.conditions import read_condition
from young_fabric.core.nouns.fields.fields import STAFF

MOST_BLOCKS = 200
ID = re.compile(r"[a-z][a-z0-9_]{0,59}")
_STANDING = frozenset({"id", "kind"})


class _Any:
    def __contains__(self, _key: object) -> bool:
        return True


def tokens_of(said: Json) -> tuple[str, ...]:
    """The keys of fields that the words of a block name; none where they can't be read."""
    words = said.get(WORDS.code)
    if not isinstance(words, str):
        return ()
    found: set[str] = set()
    for part in parts_of(words):
        try:
            found |= read_phrase(part, _Any()).tokens
        except Refusal:
            continue
    return tuple(sorted(found))


def parts_of(words: str) -> list[str]:
    """The paragraphs of typed words, each a phrase of its own."""
    return [part for part in re.split(r"\n\s*\n", words.replace("\r", "")) if part.strip()]


def check_block(said: Json, defs: Known, *, whole: bool) -> None:
    """Whether what a layout says of a block is sound: a `whole` block, or members of one that is elsewhere, None taking one
    away. Raises Refusal: `block`, `block_kind`, `no_member`, `unknown_field`, `unknown_set`, `kind_of_field`, or of a member."""
    kind = BLOCK_KINDS.get(str(said.get("kind"))) if whole else None
    if whole:
        if not isinstance(said.get("id"), str) or not ID.fullmatch(said["id"]):
            raise Refusal("block", "A block is known by small letters, digits and _", ("id",), "Such as care_words")
        if kind is None:
            words = f"There is no kind of block “{str(said.get('kind'))[:40]}”"
            raise Refusal("block_kind", words, ("kind",), "Choose one of those offered")
    members = {
        member.code: member
        for found in ([kind] if kind is not None else BLOCK_KINDS.values())
        for member in found.all_members()
    }
    for code, value in said.items():
        if whole and code in _STANDING:
            continue
        if code not in members:
            name = kind.name if kind is not None else "block"
            raise Refusal("no_member", f"A {name} has no {code[:60]}", (code,), "Take it away")
        if value is None and not whole:
            continue
        if not whole and code == "as":
            _check_any(code, value)
            continue
        wrong = members[code].check(value)
        if wrong is not None:
            raise wrong.at(code)
    if kind is not None:
        _check_whole(said, kind)
    _check_names(said, kind, defs)
    _check_fields(said, kind, defs)


def named_fields(said: Json, kind: BlockKind | None) -> Iterator[tuple[Member, tuple[str, ...]]]:
    """The members of a block that name fields, with their keys; of any kind where that is not known."""
    kinds = [kind] if kind is not None else BLOCK_KINDS.values()
    members = {member.code: member for found in kinds for member in found.all_members() if member.names_fields}
    for code, member in members.items():
        keys = member.fields(said.get(code))
        if keys:
            yield member, keys


def _check_fields(said: Json, kind: BlockKind | None, defs: Known) -> None:
    """Whether the fields that members name are there, of the right kind, and not for staff."""
    known = {**defs.fields, **defs.all_fields}
    for member, keys in named_fields(said, kind):
        for index, key in enumerate(keys):
            where = (member.code,) if isinstance(said[member.code], str) else (member.code, index)
            field = known.get(key)
            if field is None or field.audience == STAFF or (member.own_fields and not field.own):
                raise Refusal("unknown_field", f"There is no field {key[:60]} for shoppers", where, "Choose another")
            if member.kinds and not isinstance(field.rules, member.kinds):
                words = f"{field.name} is {field.rules.name}, which is of no use as {member.name.lower()}"
                raise Refusal("kind_of_field", words, where, "Choose another")


def _check_any(code: str, value: Any) -> None:
    """A member that several kinds have, each with values of its own, is sound when one of them takes it."""
    wrongs = [
        member.check(value) for kind in BLOCK_KINDS.values() for member in kind.all_members() if member.code == code
    ]
    if all(wrong is not None for wrong in wrongs):
        raise next(wrong for wrong in wrongs if wrong is not None).at(code)


def _check_whole(said: Json, kind: BlockKind) -> None:
    for member in kind.members:
        if member.default is None and member.code not in (WIDTHS.code, *said):
            wrong = member.check(None)
            if wrong is not None:
                raise wrong.at(member.code)
    regions = said.get(REGIONS.code) or ()
    if not kind.fewest_regions <= len(regions) <= kind.most_regions:
        words = f"A block of kind {kind.name} has {kind.fewest_regions} to {kind.most_regions} parts"
        raise Refusal("regions", words, (REGIONS.code,), "Split it anew")
    for device, parts in (said.get(WIDTHS.code) or {}).items():
        if len(parts) != len(regions):
            words = f"There are {len(regions)} columns and {len(parts)} widths"
            raise Refusal("widths", words, (WIDTHS.code, device), f"Give each column its parts of {PARTS}")
    takes = read_takes(said.get(TAKES.code))
    if kind.takes_fields and len(takes.fields) > kind.most_fields:
        words = f"A block of kind {kind.name} takes at most {counted(kind.most_fields, 'field')}"
        raise Refusal("too_many", words, (TAKES.code, "fields"), "Take some off")


def _check_names(said: Json, kind: BlockKind | None, defs: Known) -> None:
    """Whether what a block names is there. Fields of any subject can be named: a layout is of products or of records."""
    takes = read_takes(said.get(TAKES.code))
    known = {**defs.fields, **defs.all_fields}
    for index, key in enumerate(takes.fields):
        where = (TAKES.code, "fields", index)
        if key not in known:
            raise Refusal("unknown_field", f"There is no field {key[:60]}", where, "Choose another")
        if kind is not None and not kind.takes_kind(known[key].rules):
            words = f"{known[key].name} is {known[key].rules.name}, which a block of kind {kind.name} can't show"
            raise Refusal("kind_of_field", words, where, "Put it in a block of fields")
    for index, key in enumerate((*takes.sets, *(field_set for field_set, _ in takes.sections))):
        if key not in defs.sets:
            words = f"There is no field set {key[:60]}"
            raise Refusal("unknown_set", words, (TAKES.code, "sets", index), "Choose another")
    condition = said.get(CONDITION.code)
    if isinstance(condition, Mapping):
        try:
            read = read_condition(condition, defs)
        except Refusal as refusal:
            raise refusal.at(CONDITION.code) from None
        if read != condition:
            raise Refusal("condition", "The condition is not as it is kept", (CONDITION.code,), "Make it anew")
    copy = said.get(COPY.code)
    if isinstance(copy, str) and copy not in defs.things["shared_copy"]:
        raise Refusal("unknown_copy", f"There is no shared copy {copy[:60]}", (COPY.code,), "Choose another")
    _check_words(said, defs)


def _check_words(said: Json, defs: Known) -> None:
    words = said.get(WORDS.code)
    if not isinstance(words, str):
        return
    known = {key for key, field in {**defs.fields, **defs.all_fields}.items() if field.audience != STAFF}
    for part in parts_of(words):
        try:
            read_phrase(part, known)
        except Refusal as refusal:
            raise refusal.at(WORDS.code) from None


def check_nesting(arranged: Arrangement) -> None:
    """Whether each part shows in one block at most, and none in itself. Raises Refusal `nested`."""
    holders: dict[str, str] = {}
    for region in arranged.regions:
        for block in region.blocks:
            for name in block.regions:
                if name in holders or name == arranged.regions[0].id:
                    words = f"The part {name} would show in {block.id} and elsewhere too"
                    raise Refusal("nested", words, ("regions",), "Give the block a part of its own")
                holders[name] = region.id
    for name in holders:
        at, deep = name, 0
        while at in holders:
            at, deep = holders[at], deep + 1
            if deep > MOST_DEEP or at == name:
                raise Refusal("nested", "A block would stand in itself", ("regions",), "Move it elsewhere")

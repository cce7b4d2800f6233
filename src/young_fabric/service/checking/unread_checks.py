"""What of the stored definitions this version does not read: written by a later one, or under a key the core keeps."""

from __future__ import annotations

from collections import Counter
from collections.abc import Iterable

from young_fabric.core.display.blocks import BLOCK_KINDS
from young_fabric.core.nouns.fields import fields
from young_fabric.core.nouns.layouts import layouts
from young_fabric.core.nouns.options import option_sets
from young_fabric.core.nouns.registry import NOUNS
from young_fabric.service.acting.findings import Check
from young_fabric.service.planning.survey import Checking

LATER = "only a later version of Young Fabric knows: it is left as it is, and shows nowhere"


def unread(looking: Checking) -> Iterable[Check]:
    """Definitions, fields, options and blocks that this version leaves unread."""
    defs = looking.defs
    for code, count in sorted(Counter(code for code, _ in looking.draft.loaded.unread).items()):
        things = "1 definition" if count == 1 else f"{count} definitions"
        yield Check("unread", "look", f"{things} of a sort “{code[:40]}” {LATER}", count)
    for key, field in sorted(defs.fields.items()):
        if not field.known:
            yield Check("unread", "look", f"{field.name} is of a kind {LATER}", 1, (fields.NOUN.code, key))
    for key, options in sorted(defs.option_sets.items()):
        for option in options.options:
            if not option.known:
                text = f"{option.name} of {options.name} is of a kind {LATER}"
                yield Check("unread", "look", text, 1, (option_sets.NOUN.code, key))
    for key, layout in sorted(defs.things[layouts.NOUN.code].items()):
        if any("kind" in said and said["kind"] not in BLOCK_KINDS for _, said in layout.said_blocks()):
            text = f"{layout.name} has a block of a kind {LATER}"
            yield Check("unread", "look", text, 1, (layouts.NOUN.code, key))
    for code, noun in NOUNS.items():
        for key in sorted(set(noun.calling.kept_keys()) & set(defs.things[code])):
            name = noun.calling.name_of(key, defs.things[code][key], defs)
            text = f"{name} has the key {key}, which is that of a {noun.name} of the core: the core's is used. Copy it, then remove it"
            yield Check("unread", "wrong", text, 1, (code, key))

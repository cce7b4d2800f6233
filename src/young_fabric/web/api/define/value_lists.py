"""Value lists: what all nouns have, and pasting values."""

from __future__ import annotations

from collections.abc import Mapping
from typing import Any

from flask import Response

from young_fabric.core.nouns.lists.list_reading import table_of
from young_fabric.core.nouns.lists.value_lists import NOUN
from young_fabric.service.acting.actors import Right
from young_fabric.service.defining import value_lists, value_merging, value_remarks
from young_fabric.service.defining.value_lists import ReadList
from young_fabric.service.defining.value_merging import ValueMerge
from young_fabric.service.values.holding import HOLDERS
from young_fabric.service.writing import writes
from young_fabric.web.api import answers, reply
from young_fabric.web.api.shared.downloads import csv_answer, table
from young_fabric.web.api.shared.nouns import NounApi, register_noun_api
from young_fabric.web.auth import MOST_JSON, allow, work
from young_fabric.web.schemas import nouns as s
from young_fabric.web.schemas.common import KeyPath
from young_fabric.web.schemas.option_sets import RemarksOut

api = register_noun_api(NounApi(NOUN, s.ValueListOut, value_lists.overview))


@api.post("/value_lists/<key>/paste", responses=answers(s.ReadValuesOut))
@allow(Right.EDIT)
def lists_paste(path: KeyPath, body: s.ReadValuesIn) -> Response:
    """Read a pasted list of values, and write it when asked to."""
    with work() as unit:
        return _read(value_lists.paste_values(unit, path.key, body.text, body.version, body.apply))


@api.post("/value_lists/<key>/table", responses=answers(s.ReadValuesOut))
@allow(Right.EDIT, most_json=4 * MOST_JSON)
def lists_table(path: KeyPath, body: s.ReadValuesIn) -> Response:
    """Read a CSV table of values, and write it when asked to."""
    with work() as unit:
        return _read(value_lists.import_table(unit, path.key, body.text, body.version, body.apply))


def _read(done: ReadList) -> Response:
    reading = done.reading
    skipped = [{"line": line, "text": text, "reason": reason} for line, text, reason in reading.skipped]
    values = {"added": list(reading.added), "changed": list(reading.changed), "skipped": skipped}
    return reply(s.ReadValuesOut, {**values, "list": reading.result, "version": done.version})


@api.get("/value_lists/<key>/table.csv", responses=csv_answer())
@allow(Right.LOOK)
def lists_export(path: KeyPath) -> Response:
    """The values of a list as a CSV table, which can be read again."""
    with work() as unit:
        head, *rows = table_of(writes.need_current(unit, NOUN.code, path.key).thing)
    return table(path.key, head, lambda after: list(enumerate(rows, start=1))[after:])


@api.get("/value_lists/<key>/remarks", responses=answers(RemarksOut))
@allow(Right.LOOK)
def lists_remarks(path: KeyPath) -> Response:
    """What there is to know of the swatches of a list."""
    with work() as unit:
        return reply(RemarksOut, {"remarks": value_remarks.of_list(unit, path.key)})


@api.get("/value_lists/<key>/usage", responses=answers(s.ValueUsesOut))
@allow(Right.LOOK)
def lists_usage(path: KeyPath) -> Response:
    """How much each value of a list is used."""
    with work() as unit:
        used = value_lists.usage(unit, path.key)
        return reply(s.ValueUsesOut, {"values": [{**vars(use), "held": _held(use.held)} for use in used]})


@api.post("/value_lists/<key>/merge", responses=answers(s.MergeOut))
@allow(Right.EDIT)
def lists_merge(path: KeyPath, body: s.MergeIn) -> Response:
    """Merge values of a list into one of it, or tell what that would touch."""
    merges = [ValueMerge(path.key, code, body.into) for code in dict.fromkeys(body.codes)]
    with work() as unit:
        touched = value_merging.reach(unit, *merges)
        job = value_merging.merge_values(unit, *merges) if body.apply else None
    names = [name for _, _, name in touched.definitions]
    return reply(
        s.MergeOut,
        {
            "held": _held(touched.held),
            "made": touched.made,
            "meeting": touched.meeting,
            "definitions": names,
            "job": job,
        },
    )


def _held(counts: Mapping[str, int]) -> list[dict[str, Any]]:
    """How many of each subject, with what so many are called."""
    return [
        {"count": count, "name": HOLDERS[subject].counted[count != 1]} for subject, count in counts.items() if count
    ]

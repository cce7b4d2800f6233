"""The demo's collections: made after the products, whose titles and SKUs they name."""

from __future__ import annotations

from collections.abc import Callable
from typing import Any

from young_fabric.core.base.conditions import JOINS
from young_fabric.core.display.cascade import read_scope
from young_fabric.demo.catalogue import read
from young_fabric.service.acting.actors import Work
from young_fabric.service.defining import definitions, holders
from young_fabric.service.products import products
from young_fabric.service.products.products import Filters
from young_fabric.service.values.value_states import ValueEdit
from young_fabric.service.values.value_writer import put_many
from young_fabric.service.writing import writes


def gather(work: Work, own: Callable[[str], str], prefix: str) -> None:
    """Make the collections, their own fields, the set one of them brings, and what they say."""
    data = read("collections.toml")
    mine = {row["key"]: f"{prefix}{row['key']}" for row in data["fields"]}

    def key(name: str) -> str:
        return mine.get(name) or own(name)

    for row in data["fields"]:
        definitions.create(work, "field", row["name"], {**row, "key": key(row["key"])})
    for row in data["collections"]:
        _collection(work, row, key)
    for copy, words in data["words"].items():
        version = writes.need_current(work, "shared_copy", copy).version
        definitions.change(work, "shared_copy", copy, version, {"own": words})
    for row in data["sets"]:
        section = {"key": "s1", "name": row["section"], "fields": [key(field) for field in row["fields"]]}
        given = {"key": row["key"], "sections": [section], "collections": row["collections"]}
        definitions.create(work, "field_set", row["name"], given)
    for row in data["settings"]:
        definitions.display(work, read_scope(row["scope"]), key(row["field"]), row["surface"], row["set"], None)
    tips = [ValueEdit(_found(work, title), None, {key("field_tip"): tip}) for title, tip in data["tips"].items()]
    put_many(work, tips)
    named = [
        ValueEdit(_found(work, title), None, {key("goes_with"): [_found(work, other) for other in others]})
        for title, others in data["pairs"].items()
    ]
    put_many(
        work,
        [*named, *[ValueEdit(_found(work, title), None, {key("more_in"): of}) for title, of in data["more"].items()]],
    )


def _collection(work: Work, row: dict[str, Any], key: Callable[[str], str]) -> None:
    given: dict[str, Any] = {name: row[name] for name in ("key", "order") if name in row}
    given |= {name: [_found(work, words) for words in row.get(name, ())] for name in ("picked", "kept_out")}
    if "condition" in row:
        given["condition"] = _keyed(row["condition"], key)
    made = definitions.create(work, "collection", row["name"], given)
    values = {"words": row.get("words", ""), key("season"): row.get("season", "")}
    holders.fill(work, "collection", row["key"], made.version, {name: value for name, value in values.items() if value})


def _keyed(tree: dict[str, Any], key: Callable[[str], str]) -> dict[str, Any]:
    join = next((name for name in JOINS if name in tree), None)
    if join is not None:
        return {join: [_keyed(branch, key) for branch in tree[join]]}
    return {**tree, "field": key(tree["field"])}


def _found(work: Work, words: str) -> int:
    return products.search(work, Filters(words=words), None).rows[0].product.id

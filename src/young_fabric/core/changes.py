"""Changes in words: what differs between two states of a thing, as the history and a release tell it."""

from __future__ import annotations

from collections.abc import Mapping
from typing import Any

from young_fabric.core.definitions import Definitions
from young_fabric.core.display import SURFACES
from young_fabric.core.kinds.numbers import is_plain_decimal
from young_fabric.core.steps import scope_name

State = Mapping[str, Any]

NOUN_NAMES = {
    "field": "field",
    "list": "value list",
    "set": "field set",
    "type": "product type",
    "setting": "display setting",
    "product": "product",
    "stock": "stock",
}
_LIMITS = {
    "min": "smallest",
    "max": "largest",
    "decimals": "decimals",
    "min_length": "shortest",
    "max_length": "longest",
    "pattern": "pattern",
    "min_count": "fewest values",
    "max_count": "most values",
    "min_width": "least width",
    "min_height": "least height",
    "required": "required",
}
_LABELS = {"beside": "label beside", "above": "label above", "hidden": "no label"}


def describe(noun: str, before: State | None, after: State | None, defs: Definitions) -> list[str]:
    """Short lines, the weightiest first. `defs` gives names to keys."""
    if before is None:
        return ["new"] if noun != "setting" else _setting({}, after or {}, defs)
    if after is None:
        return ["removed"] if noun != "setting" else [f"back to inherited on {_place(before, defs)}"]
    return {
        "field": _field,
        "list": _list,
        "set": _set,
        "type": _type,
        "setting": _setting,
        "product": _product,
        "stock": _stock,
    }[noun](before, after, defs)


def _said(value: Any) -> str:
    if value is None or value == "" or value == []:
        return "nothing"
    if isinstance(value, bool):
        return "yes" if value else "no"
    if isinstance(value, dict) and "amount" in value:
        count = f"{value['count']} × " if value.get("count", 1) != 1 else ""
        return f"{count}{value['amount']} {value['unit']}"
    if isinstance(value, list):
        pictures = sum(1 for one in value if isinstance(one, dict) and "file" in one)
        if pictures:
            return f"{pictures} picture{'s' if pictures > 1 else ''}"
        return ", ".join(_said(one) for one in value)
    if isinstance(value, dict):
        return "a picture" if "file" in value else str(value)
    text = str(value)
    if is_plain_decimal(text):
        return text
    return f"“{text[:60]}{'…' if len(text) > 60 else ''}”"


def _turned(what: str, before: Any, after: Any) -> str:
    return f"{what} {_said(before)} → {_said(after)}"


def _names(keys: Any, named: Mapping[str, Any]) -> str:
    return ", ".join(named[key].name if key in named else str(key) for key in keys)


def _field(before: State, after: State, defs: Definitions) -> list[str]:  # noqa: ARG001
    out = []
    for name, words in _LIMITS.items():
        old, new = (before.get("limits") or {}).get(name), (after.get("limits") or {}).get(name)
        if old != new:
            out.append(
                f"{words} {old if old not in (None, False) else 'not limited'} → {new if new not in (None, False) else 'not limited'}"
            )
    members = {
        "name": "name",
        "label": "label",
        "kind": "kind",
        "unit": "unit",
        "list": "value list",
        "need": "need",
        "audience": "for",
        "many": "several values",
        "default": "default",
        "help": "help",
        "example": "example",
    }
    out += [
        _turned(words, before.get(m), after.get(m)) for m, words in members.items() if before.get(m) != after.get(m)
    ]
    return out or ["no difference"]


def _list(before: State, after: State, defs: Definitions) -> list[str]:  # noqa: ARG001
    old = {v["code"]: v for v in before["values"]}
    new = {v["code"]: v for v in after["values"]}
    out = []
    added = [v["label"] for code, v in new.items() if code not in old]
    if added:
        out.append(
            f"{len(added)} value{'s' if len(added) > 1 else ''} added: {', '.join(added[:4])}{'…' if len(added) > 4 else ''}"
        )
    gone = [v["label"] for code, v in old.items() if code not in new]
    if gone:
        out.append(f"removed: {', '.join(gone[:4])}")
    both = [code for code in old if code in new]
    retired = [new[c]["label"] for c in both if new[c]["retired"] and not old[c]["retired"]]
    if retired:
        out.append(f"retired: {', '.join(retired[:4])}")
    back = [new[c]["label"] for c in both if old[c]["retired"] and not new[c]["retired"]]
    if back:
        out.append(f"brought back: {', '.join(back[:4])}")
    out += [_turned("label", old[c]["label"], new[c]["label"]) for c in both if old[c]["label"] != new[c]["label"]]
    if any(old[c]["synonyms"] != new[c]["synonyms"] for c in both):
        out.append("synonyms changed")
    if both != [code for code in new if code in old]:
        out.append("order changed")
    if before["name"] != after["name"]:
        out.append(_turned("name", before["name"], after["name"]))
    return out or ["no difference"]


def _set(before: State, after: State, defs: Definitions) -> list[str]:
    def inside(state: State) -> list[str]:
        return [key for section in state["sections"] for key in section["fields"]]

    old, new = inside(before), inside(after)
    out = []
    added, gone = [k for k in new if k not in old], [k for k in old if k not in new]
    if added:
        out.append(f"{_names(added, defs.all_fields)} added")
    if gone:
        out.append(f"{_names(gone, defs.all_fields)} taken off")
    if not added and not gone and before["sections"] != after["sections"]:
        out.append("sections or order changed")
    if before["name"] != after["name"]:
        out.append(_turned("name", before["name"], after["name"]))
    return out or ["no difference"]


def _type(before: State, after: State, defs: Definitions) -> list[str]:
    out = []
    for member, named in (("sets", defs.sets), ("fields", defs.all_fields)):
        added = [k for k in after[member] if k not in before[member]]
        gone = [k for k in before[member] if k not in after[member]]
        if added:
            out.append(f"takes {_names(added, named)}")
        if gone:
            out.append(f"no longer takes {_names(gone, named)}")
        if not added and not gone and before[member] != after[member]:
            out.append(f"order of {member} changed")
    for key in sorted({*before["needs"], *after["needs"]}):
        if before["needs"].get(key) != after["needs"].get(key):
            name = defs.all_fields[key].name if key in defs.all_fields else key
            out.append(f"{name} {after['needs'].get(key, 'as inherited')}")
    if before["parent"] != after["parent"]:
        parent = after["parent"]
        out.append(f"now under {defs.types[parent].name if parent in defs.types else 'nothing'}")
    for member in ("name", "slug"):
        if before[member] != after[member]:
            out.append(_turned(member, before[member], after[member]))
    return out or ["no difference"]


def _place(state: State, defs: Definitions) -> str:
    scope = state["scope"]
    origin = "shop" if scope["kind"] == "shop" else f"{scope['kind']}:{scope['key']}"
    surface = SURFACES.get(state["surface"], "every surface")
    return (
        f"the {surface}, by {scope_name(defs, origin)}"
        if state["surface"] in SURFACES
        else f"{surface}, by {scope_name(defs, origin)}"
    )


def _setting(before: State, after: State, defs: Definitions) -> list[str]:
    old, new = before.get("set", {}), after.get("set", {})
    place = _place(after or before, defs)
    out = []
    for prop in sorted({*old, *new}, key=lambda name: name != "shown"):
        if old.get(prop) == new.get(prop):
            continue
        if prop not in new:
            out.append(f"{prop.replace('_', ' ')} back to inherited on {place}")
        elif prop == "shown":
            out.append(f"{'now' if new[prop] else 'no longer'} shown on {place}")
        elif prop == "label":
            out.append(f"{_LABELS.get(new[prop], new[prop])} on {place}")
        elif prop == "empty":
            out.append(f"when empty {'a dash' if new[prop] == 'dash' else 'left out'} on {place}")
        elif prop == "devices":
            out.append(f"on {', '.join(new[prop])} only, on {place}")
        else:
            out.append(f"label “{new[prop]}” on {place}" if new[prop] else f"the field's own label on {place}")
    return out or ["no difference"]


def _product(before: State, after: State, defs: Definitions) -> list[str]:
    out = []
    if before["offered"] != after["offered"]:
        out.append("put in the shop" if after["offered"] else "kept out of the shop")
    if before["type"] != after["type"]:
        out.append(f"now a {defs.types[after['type']].name if after['type'] in defs.types else after['type']}")
    for key in [*after["values"], *[k for k in before["values"] if k not in after["values"]]]:
        old, new = before["values"].get(key), after["values"].get(key)
        if old != new:
            name = defs.all_fields[key].name if key in defs.all_fields else key
            out.append(_turned(name, old, new))
    for key in after["unread"]:
        if before["unread"].get(key) != after["unread"][key]:
            name = defs.all_fields[key].name if key in defs.all_fields else key
            out.append(f"{name} {_said(after['unread'][key])}, not understood")
    return out or ["no difference"]


def _stock(before: State, after: State, defs: Definitions) -> list[str]:  # noqa: ARG001
    def told(state: State) -> str:
        return "not counted" if state["amount"] is None else str(state["amount"])

    return [f"{told(before)} → {told(after)}"]


def merge_back(before: State, after: State, current: State) -> tuple[dict[str, Any], list[str]]:
    """The current state with what a change did taken back, and the members where a later change is in the way."""
    merged, clashes = dict(current), []
    for member in {*before, *after}:
        old, new, now = before.get(member), after.get(member), current.get(member)
        if old == new:
            continue
        if isinstance(old, dict) and isinstance(new, dict) and isinstance(now, dict):
            inner, inside = merge_back(old, new, now)
            merged[member] = inner
            clashes += [f"{member}.{one}" for one in inside]
        elif now != new:
            clashes.append(member)
        elif member in before:
            merged[member] = old
        else:
            merged.pop(member, None)
    return merged, clashes

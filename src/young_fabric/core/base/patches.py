"""What differs between two states of a JSON value, kept small: by member, and by key in lists whose items have one.

A patch is JSON itself. `{"was", "is"}` is one thing that changed (a side that is not there is left out), `{"in"}` holds
patches of members, `{"items"}` patches of a keyed list's items, with where each stood, or `order` when items moved.
"""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from typing import Any

from young_fabric.core.base.merge import ABSENT, ItemKey, Keyed, Path, items_by_key, member_of, same, woven

Patch = dict[str, Any]


def diff(before: Any, after: Any, keyed: Keyed | None = None) -> Patch | None:
    """The patch from one state to another (ABSENT for none), None when they are alike."""
    return _diff(before, after, {tuple(path.split("/")): member for path, member in (keyed or {}).items()}, ())


def forward(state: Any, patch: Patch | None) -> Any:
    """The state after a patch, from the one before. What the state no longer has is left as it is."""
    return state if patch is None else _apply(state, patch, "is", "was")


def backward(state: Any, patch: Patch | None) -> Any:
    """The state before a patch, from the one after."""
    return state if patch is None else _apply(state, patch, "was", "is")


def _diff(before: Any, after: Any, keyed: Mapping[tuple[str, ...], str], path: Path) -> Patch | None:
    if before is after or (before is not ABSENT and after is not ABSENT and same(before, after)):
        return None
    if isinstance(before, dict) and isinstance(after, dict):
        inner = {
            name: found
            for name in {**before, **after}
            if (found := _diff(before.get(name, ABSENT), after.get(name, ABSENT), keyed, (*path, name)))
        }
        return {"in": inner}
    if isinstance(before, list) and isinstance(after, list):
        member = member_of(keyed, path)
        was = items_by_key(before, member) if member is not None else None
        now = items_by_key(after, member) if member is not None else None
        if was is not None and now is not None:
            return _diff_items(was, now, keyed, path, member or "")
    side: Patch = {}
    if before is not ABSENT:
        side["was"] = before
    if after is not ABSENT:
        side["is"] = after
    return side


def _diff_items(
    was: Mapping[ItemKey, Any],
    now: Mapping[ItemKey, Any],
    keyed: Mapping[tuple[str, ...], str],
    path: Path,
    member: str,
) -> Patch:
    items = []
    for key in {**was, **now}:
        step = key[1]
        found = _diff(was.get(key, ABSENT), now.get(key, ABSENT), keyed, (*path, step))
        if found:
            items.append({"key": step, "patch": found, **_anchors(was, now, key)})
    patch: Patch = {"items": items, "by": member}
    both = was.keys() & now.keys()
    if [key for key in was if key in both] != [key for key in now if key in both]:
        patch["order"] = {"was": [key[1] for key in was], "is": [key[1] for key in now]}
    return patch


def _anchors(was: Mapping[ItemKey, Any], now: Mapping[ItemKey, Any], key: ItemKey) -> dict[str, Any]:
    """Before which item one that came or went stands, on the side that has it: all before it is found from that."""
    out: dict[str, Any] = {}
    for side, items, other in (("was", was, now), ("is", now, was)):
        if key in items and key not in other:
            order = list(items)
            position = order.index(key)
            out["after"] = [side, order[position - 1][1] if position else None]
    return out


def _apply(state: Any, patch: Patch, to: str, since: str) -> Any:
    if "in" in patch:
        out = dict(state) if isinstance(state, dict) else {}
        for name, inner in patch["in"].items():
            value = _apply(out.get(name, ABSENT), inner, to, since)
            if value is ABSENT:
                out.pop(name, None)
            else:
                out[name] = value
        return out
    if "items" in patch:
        return _apply_items(state if isinstance(state, list) else [], patch, to, since)
    return patch.get(to, ABSENT)


def _apply_items(state: Sequence[Any], patch: Patch, to: str, since: str) -> list[Any]:
    member = patch["by"]
    current = items_by_key(state, member)
    if current is None:
        return list(state)
    items = {key[1]: item for key, item in current.items()}
    added: list[tuple[Any, Any]] = []
    for row in patch["items"]:
        value = _apply(items.get(row["key"], ABSENT), row["patch"], to, since)
        if value is ABSENT:
            items.pop(row["key"], None)
        elif row["key"] in items:
            items[row["key"]] = value
        else:
            items[row["key"]] = value
            added.append((row["key"], row.get("after", [to, None])[1]))
    order = [key for key in items if key not in {key for key, _ in added}]
    if "order" in patch:
        wanted = [key for key in patch["order"][to] if key in items]
        return [items[key] for key in woven(wanted, list(items))]
    for key, after in added:
        order.insert(order.index(after) + 1 if after in order else 0, key)
    return [items[key] for key in order]

"""States of values on their way to be written: what is typed read into them, merged with what others wrote, made to fit again.

One way for all that holds values, whatever holds them: products, variants, definitions. A state has its `values` and what was not
understood (`unread`) by field, and what else its subject says.
"""

from __future__ import annotations

from collections.abc import Callable, Iterable, Iterator, Mapping, Sequence
from dataclasses import dataclass, field
from typing import Any, NamedTuple

from young_fabric.core.base.errors import Refusal
from young_fabric.core.base.merge import ABSENT, merge
from young_fabric.core.base.patches import backward, diff
from young_fabric.core.definitions.definitions import Definitions
from young_fabric.core.nouns.fields.fields import Field
from young_fabric.core.subjects.registry import Subject
from young_fabric.core.subjects.values import FieldRules
from young_fabric.service.acting.actors import Work
from young_fabric.service.acting.clashing import Sides, clash
from young_fabric.service.planning import plans
from young_fabric.service.values.existing import Existing, existing
from young_fabric.store.repos import changes

FORMAT = 1
"""The format of states of values."""
CELLS, TOGETHER = frozenset({"values", "unread"}), "fields"
"""The members of a state that hold what fields have, and the one that holds both while it is merged."""
State = dict[str, Any]
RulesOf = Callable[[str], FieldRules | None]
"""The rules of a field by its key; None of one there is no more."""


@dataclass(frozen=True)
class ValueEdit:
    """What somebody wants of one holder of values: members to change, from the version they read (None: from what stands).

    `values` are as typed or chosen, by field key. `type` and `offered` are of products alone; `removes` takes the holder out. `states` are whole
    states instead (base, mine), ABSENT for none: what an undo puts back. A new product has no base and states of its own.
    """

    id: int
    version: int | None = None
    values: Mapping[str, Any] = field(default_factory=dict)
    type: str | None = None
    offered: bool | None = None
    removes: bool = False
    states: tuple[Any, Any] | None = None
    undoes: int | None = None

    @property
    def goes(self) -> bool:
        """Whether the holder is to go."""
        return self.removes or (self.states is not None and self.states[1] is ABSENT)

    def given(self) -> Iterator[tuple[str, Any, bool]]:
        """(field, value, whether it is stored rather than typed) of all it puts."""
        if self.states is None:
            yield from ((key, typed, False) for key, typed in self.values.items())
        elif self.states[1] is not ABSENT:
            yield from ((key, value, True) for key, value in self.states[1]["values"].items())


class Standing(NamedTuple):
    """What stands of a holder: its key in the history, what it is called, its state and version."""

    key: str
    name: str
    state: State
    version: int


class Merged(NamedTuple):
    """What an edit of a holder comes to, where anything differs: its state and version after it, and the change to be recorded."""

    id: int
    state: State
    version: int
    change: dict[str, Any]


def existing_of(work: Work, defs: Definitions, edits: Iterable[ValueEdit], rules_of: RulesOf) -> Existing:
    """What of all that edits name is there; products are held until the transaction ends."""
    given: list[tuple[FieldRules, Any]] = []
    for edit in edits:
        for key, value, stored in edit.given():
            rules = rules_of(key)
            if rules is not None:
                given.append((rules, value if stored or not rules.field.targets else rules.read(value).value))
    return existing(work.session, defs, given)


def bases(work: Work, subject: Subject, begun: Mapping[int, tuple[Standing, int | None]]) -> dict[int, State]:
    """The states edits began from: what stands, or stood at the version that was read. Raises Refusal `version`."""
    stale: dict[tuple[str, str], int] = {}
    for standing, read in begun.values():
        if read is not None and read != standing.version:
            if not 1 <= read < standing.version:
                words = f"This {subject.name} never had version {read}"
                raise Refusal("version", words, ("version",), "Read it again")
            stale[subject.code, standing.key] = read
    since = changes.since_versions(work.session, stale)
    found = {}
    for number, (standing, _) in begun.items():
        state = standing.state
        for change in since.get((subject.code, standing.key), ()):
            state = backward(state, change.patch)
        found[number] = state
    return found


def typed_into(state: State, typed: Mapping[str, Any], rules_of: RulesOf, there: Existing) -> State:
    """A state with what was typed or chosen read into it; what is not understood is kept as typed. Raises Refusal."""
    values, unread = dict(state["values"]), dict(state["unread"])
    for key, given in typed.items():
        rules = rules_of(key)
        values.pop(key, None)
        unread.pop(key, None)
        if rules is None:
            continue
        read = rules.read(given)
        if read.kept is not None:
            unread[key] = read.kept
        elif read.value is not None:
            values[key] = _settled(rules, key, read.value, there)
    return {**state, "values": values, "unread": unread}


def _settled(rules: FieldRules, key: str, value: Any, there: Existing) -> Any:
    """A value as what it names stands in the shop: pictures with their size. Raises Refusal."""
    try:
        return there.settled(rules, value)
    except Refusal as refusal:
        raise refusal.at("values", key) from None


def fitting(state: Any, rules_of: RulesOf, there: Existing) -> Any:
    """A whole state as the definitions have it now: what no longer has its field's shape, or names what is gone, is kept as typed."""
    if state is ABSENT:
        return ABSENT
    values, unread = {}, dict(state["unread"])
    for key, value in state["values"].items():
        rules = rules_of(key)
        wrong = rules.judge(value) if rules is not None else None
        if (wrong is not None and wrong.code == "shape") or (rules is not None and there.gone(rules, value)):
            unread[key] = value
        else:
            values[key] = value
    return {**state, "values": values, "unread": unread}


def merged(work: Work, subject: Subject, holder: tuple[str, str, int | None], base: Any, mine: Any, theirs: Any) -> Any:
    """What somebody made of a state, merged field by field with what others made of it; `holder` is the key, name and version of
    what stands. Raises Clash."""
    found, clashes = merge(_as_cells(base), _as_cells(mine), _as_cells(theirs))
    if clashes:
        key, name, version = holder
        defs = plans.draft(work.session)

        def lines(before: Any, after: Any) -> list[str]:
            return subject.describe(before, after, defs) if before is not None or after is not None else []

        raise clash(work, (subject.code, key), name, Sides(base, mine, theirs), version, clashes, lines)
    return ABSENT if found is ABSENT else _from_cells(found)


def _as_cells(state: Any) -> Any:
    """A state with each field as one thing, understood or not, so that no half of a value is ever merged with another's."""
    if state is ABSENT:
        return ABSENT
    cells = {key: ["value", value] for key, value in state["values"].items()}
    cells |= {key: ["typed", typed] for key, typed in state["unread"].items()}
    return {**{name: said for name, said in state.items() if name not in CELLS}, TOGETHER: cells}


def _from_cells(cells: Mapping[str, Any]) -> State:
    fields = cells[TOGETHER].items()
    return {
        **{name: said for name, said in cells.items() if name != TOGETHER},
        "values": {key: cell[1] for key, cell in fields if cell[0] == "value"},
        "unread": {key: cell[1] for key, cell in fields if cell[0] == "typed"},
    }


def state_of_cells(cells: Mapping[str, Sequence[Any]]) -> State:
    """What a definition holds (field → whether it is a value or as typed, and that) as a state of values."""
    return {
        "values": {name: held for name, (sort, held) in cells.items() if sort == "value"},
        "unread": {name: held for name, (sort, held) in cells.items() if sort != "value"},
    }


def cells_of_state(state: State) -> dict[str, list[Any]]:
    """A state of values as a definition holds it."""
    return {
        **{name: ["value", value] for name, value in state["values"].items()},
        **{name: ["typed", typed] for name, typed in state["unread"].items()},
    }


def change_row(
    subject: Subject, key: str, name: str, before: Any, after: Any, version: int, defs: Definitions, undoes: int | None
) -> dict[str, Any]:
    """A change of a holder as the history records it; states ABSENT for none."""
    lines = subject.describe(None if before is ABSENT else before, None if after is ABSENT else after, defs)
    return {
        "noun": subject.code,
        "key": key,
        "name": name,
        "lines": lines,
        "patch": diff(before, after) or {"in": {}},
        "format": FORMAT,
        "version": version,
        "undoes": undoes,
    }


def merge_edits(
    work: Work,
    subject: Subject,
    edits: Sequence[ValueEdit],
    stands: Mapping[int, Standing],
    fields: Mapping[str, Field],
) -> list[Merged]:
    """What edits of holders that are there come to; of what stays as it is nothing. Their rows are locked.

    Raises Refusal `not_found`, `unknown_field`, `version`, Clash.
    """
    defs = plans.draft(work.session)
    rules = {key: FieldRules(field, defs.spec(field)) for key, field in fields.items()}
    for edit in edits:
        if edit.id not in stands:
            raise Refusal("not_found", f"There is no such {subject.name}", (), "It may have gone: look again")
    there = existing_of(work, defs, edits, rules.get)
    base = bases(work, subject, {edit.id: (stands[edit.id], edit.version) for edit in edits if edit.states is None})

    def need_rules(key: str) -> FieldRules:
        if key not in rules:
            words = f"{subject.plural.capitalize()} have no field {key[:80]}"
            raise Refusal("unknown_field", words, ("values", key), "Look again")
        return rules[key]

    found = []
    for edit in edits:
        key, name, theirs, version = stands[edit.id]
        if edit.states is not None:
            began, mine = edit.states[0], fitting(edit.states[1], rules.get, there)
        else:
            began, mine = base[edit.id], typed_into(base[edit.id], edit.values, need_rules, there)
        after = merged(work, subject, (key, name, version), began, mine, theirs)
        if after != theirs:
            row = change_row(subject, key, name, theirs, after, version + 1, defs, edit.undoes)
            found.append(Merged(edit.id, after, version + 1, row))
    return found

"""Copies of things, for every noun that is made from a name; and several things removed in one stroke."""

from __future__ import annotations

import pytest

from young_fabric.core.base.errors import Refusal
from young_fabric.core.nouns.base import state_of
from young_fabric.core.nouns.registry import NOUNS
from young_fabric.service import history
from young_fabric.service.acting.actors import Clash, Work
from young_fabric.service.defining import definitions, housekeeping
from young_fabric.service.defining.definitions import LONGEST_NAME
from young_fabric.service.planning import plans
from young_fabric.service.writing import writes

MADE = sorted(code for code, noun in NOUNS.items() if noun.blank is not None)


def some_key(work: Work, noun: str) -> str:
    """A thing of the noun that says as much as any."""
    defs = plans.draft(work.session)
    own = [key for key in defs.things[noun] if key not in NOUNS[noun].calling.kept_keys()]
    return max(own, key=lambda key: len(str(defs.things[noun][key])))


@pytest.mark.parametrize("noun", MADE)
def test_a_copy_says_the_same_and_one_undo_takes_it_away(work: Work, noun: str) -> None:
    key = some_key(work, noun)
    thing = writes.need_current(work, noun, key).thing
    made = definitions.copy(work, noun, key).thing
    own = {"key", "name", *NOUNS[noun].calling.own_alone}
    first, second = ({m: v for m, v in state_of(each).items() if m not in own} for each in (thing, made))
    assert second == first
    assert (made.key != key, made.name) == (True, f"{thing.name}, copy")
    again = definitions.copy(work, noun, key).thing
    assert (again.name, again.key not in (key, made.key)) == (f"{thing.name}, copy 2", True)
    history.undo_last(work)
    assert again.key not in plans.draft(work.session).things[noun]
    assert made.key in plans.draft(work.session).things[noun]


def test_a_name_of_full_length_can_be_copied(work: Work) -> None:
    key = definitions.create(work, "value_list", "n" * LONGEST_NAME, {}).thing.key
    for _ in range(3):
        name = definitions.copy(work, "value_list", key).thing.name
        assert len(name) <= LONGEST_NAME
    assert name.endswith(", copy 3")


def test_several_go_in_one_stroke_and_come_back_in_one(work: Work) -> None:
    keys = [definitions.create(work, "field", f"Spare {at}", {}).thing.key for at in range(3)]
    definitions.create(work, "value_list", "Spare list", {})
    things = [("field", key, 1) for key in keys] + [("value_list", "spare_list", 1)]
    unused = {(finding.noun, finding.key): finding.version for finding in housekeeping.findings(work)}
    assert all(unused[noun, key] == version for noun, key, version in things)
    definitions.remove_all(work, things)
    defs = plans.draft(work.session)
    assert not any(key in defs.things[noun] for noun, key, _ in things)
    history.undo_last(work)
    defs = plans.draft(work.session)
    assert all(key in defs.things[noun] for noun, key, _ in things)


def test_where_one_is_held_fast_none_goes(work: Work) -> None:
    key = definitions.create(work, "field", "Spare", {}).thing.key
    version = writes.need_current(work, "value_list", "suits").version
    with pytest.raises(Refusal) as caught, work.session.begin_nested():
        definitions.remove_all(work, [("field", key, 1), ("value_list", "suits", version)])
    assert (caught.value.code, caught.value.where[:2]) == ("in_use", ("things", 1))
    plans.refresh(work.session)
    assert key in plans.draft(work.session).fields


def test_one_that_was_changed_meanwhile_is_a_clash(work: Work) -> None:
    key = definitions.create(work, "field", "Spare", {}).thing.key
    definitions.change(work, "field", key, 1, {"help": "Still needed"})
    with pytest.raises(Clash):
        definitions.remove_all(work, [("field", key, 1)])


def test_those_that_hold_each_other_fast_go_together(work: Work) -> None:
    made = definitions.create(work, "value_list", "Spare list", {"values": [{"code": "a", "label": "A"}]}).thing.key
    key = definitions.create(work, "field", "Spare", {"kind": "one_of", "options": {"list": made}}).thing.key
    with pytest.raises(Refusal), work.session.begin_nested():
        definitions.remove_all(work, [("value_list", made, 1)])
    definitions.remove_all(work, [("value_list", made, 1), ("field", key, 1)])
    history.undo_last(work)
    defs = plans.draft(work.session)
    assert defs.fields[key].options["list"] == made


def test_what_there_is_no_sort_of_is_refused(work: Work) -> None:
    with pytest.raises(Refusal):
        definitions.remove_all(work, [("nothing", "spare", 1)])

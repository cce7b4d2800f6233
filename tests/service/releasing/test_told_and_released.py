"""What is told of a change before it is made, and before a release, held against what the release does."""

from __future__ import annotations

from collections.abc import Callable, Mapping
from random import Random
from typing import Any, NamedTuple

import pytest

from young_fabric.core.base.errors import Refusal
from young_fabric.core.display.cascade import Scope
from young_fabric.core.display.surfaces import listed_surface, product_surfaces, record_surface
from young_fabric.core.nouns.layouts import display_settings
from young_fabric.core.nouns.options.said_options import is_option_key
from young_fabric.service.acting.actors import Work
from young_fabric.service.defining import definitions
from young_fabric.service.foreseeing import counted
from young_fabric.service.pages import weave, weave_cells
from young_fabric.service.planning import plans
from young_fabric.service.products import products
from young_fabric.service.releasing import pending, release
from young_fabric.service.writing import writes
from young_fabric.store.repos import listings
from young_fabric.store.repos.definitions import versions_of

ROUNDS = 6
Told = Mapping[str, int]


class Made(NamedTuple):
    """A change that was made, with what was told of it before, None where nothing is asked."""

    words: str
    surfaces: Told | None
    exact: bool


def written(work: Work, noun: str, key: str, given: Mapping[str, Any]) -> Made:
    version = writes.need_current(work, noun, key).version
    told = definitions.consequences(work, noun, key, definitions.changed_thing(work, noun, key, given))
    definitions.change(work, noun, key, version, given)
    return Made(f"{noun} {key} {given}", told.surfaces, told.exact)


def field(work: Work, by: Random) -> Made:
    own = sorted(plans.draft(work.session).product_fields)
    given: dict[str, Any] = by.choice(
        [
            {"label": f"Called {by.randrange(90)}"},
            {"audience": by.choice(["shoppers", "staff", "feeds"])},
            {"need": by.choice(["required", "optional"])},
            {"help": "Words for those who fill it"},
        ]
    )
    return written(work, "field", by.choice(own), given)


def cell(work: Work, by: Random) -> Made:
    """A field or an option, shown or not, and called otherwise, for one scope or another."""
    defs = plans.draft(work.session)
    scope = by.choice([Scope("shop"), Scope("type", by.choice(sorted(defs.types)))])
    rows = [row for group in weave.weave(work, scope).groups for row in group.rows]
    options = [row for row in rows if is_option_key(row.field.key)]
    row = by.choice(options if options and by.random() < 0.4 else rows)
    surface = by.choice([*product_surfaces(), "*"])
    given: dict[str, Any] = by.choice([{"shown": False}, {"shown": True}, {"label": "above"}, {"devices": ["desktop"]}])
    opened = weave_cells.open_cell(work, scope, row.field.key, surface)
    edit = definitions.SettingEdit(row.field.key, surface, given, opened.version)
    [(key, thing)] = definitions.changed_settings(work, scope, [edit])
    told = definitions.consequences(work, "display_setting", key, thing)
    definitions.display(work, scope, row.field.key, surface, given, opened.version)
    return Made(f"{scope} {row.field.key} {surface} {given}", told.surfaces, told.exact)


def named(work: Work, by: Random) -> Made:
    """A type, a list's value, a record or a collection, called otherwise."""
    defs = plans.draft(work.session)
    noun = by.choice(["product_type", "collection", "record"])
    key = by.choice(sorted(defs.things[noun]))
    return written(work, noun, key, {"name": f"Named {by.randrange(90)}"})


def typed(work: Work, by: Random) -> Made:
    """A type without one of its sets or single fields."""
    defs = plans.draft(work.session)
    having = sorted(key for key, found in defs.types.items() if found.sets)
    key = by.choice(having)
    sets = list(defs.types[key].sets)
    sets.remove(by.choice(sets))
    return written(work, "product_type", key, {"sets": sets})


def filled(work: Work, by: Random) -> Made:
    row = by.choice(products.search(work, products.Filters(), None).rows)
    values = {"title": f"{row.product.title} {by.randrange(90)}"}
    products.fill(work, row.product.id, products.get(work, row.product.id).version, values)
    return Made(f"{row.product.title} {values}", None, True)


def fanned(work: Work, by: Random) -> Made:
    """How many cards products have on listings, and how they are called, for the shop or a collection."""
    defs = plans.draft(work.session)
    scope = by.choice([Scope("shop"), Scope("collection", by.choice(sorted(defs.things["collection"])))])
    options = display_settings.variant_options(defs)
    given: dict[str, Any] = by.choice(
        [
            {"mode": by.choice(["product", "variant"])},
            {"mode": by.choice(["by", "all_but"]), "options": [by.choice(sorted(options))]},
            {"title": by.choice(["{product}", "{sku} {product}", f"{{product}}[, {{{by.choice(sorted(options))}}}]"])},
            {"no_variants": by.choice(["keep", "drop"]), "listings": by.choice([["home"], ["collection"]])},
        ]
    )
    surface = listed_surface().code
    key = str(display_settings.SettingKey(scope, "*", surface))
    version = versions_of(work.session, "display_setting", [key]).get(key)
    edit = definitions.SettingEdit("*", surface, given, version)
    [(_, thing)] = definitions.changed_settings(work, scope, [edit])
    told = definitions.consequences(work, "display_setting", key, thing)
    definitions.display(work, scope, "*", surface, given, version)
    return Made(f"{scope} {given}", told.surfaces, told.exact)


CHANGES: list[Callable[[Work, Random], Made]] = [field, cell, cell, cell, named, typed, filled, fanned, fanned]


def check(work: Work, made: list[Made], what: str) -> None:
    told = pending.pending(work)
    try:
        done = release.release(work, what[: release.LONGEST_NOTE])
    except Refusal as refused:
        assert refused.code == "nothing", what
        return
    assert listings.without_documents(work.session, listed_surface().code) == [], what
    really = {code: done.counts.get(code, 0) for code in product_surfaces()}
    whole = {code: told.surfaces[code] for code in really}
    assert whole == really if told.exact else all(whole[code] >= really[code] for code in really), (what, told, really)
    if len(made) > 1 or made[0].surfaces is None:
        return
    alone = {code: made[0].surfaces[code] for code in really}
    assert alone == really if made[0].exact else all(alone[code] >= really[code] for code in really), (
        what,
        made[0],
        really,
    )
    [thing] = [thing for thing in told.things if set(thing.surfaces) - {record_surface().code}]
    by_itself = {code: thing.surfaces[code] for code in really}
    assert by_itself == really if thing.exact else all(by_itself[code] >= really[code] for code in really), (
        what,
        thing,
    )


@pytest.mark.parametrize(("seed", "most"), [(0, counted.MOST_RENDERED), (1, counted.MOST_RENDERED), (2, 2)])
def test_what_is_told_is_what_a_release_does(work: Work, monkeypatch: pytest.MonkeyPatch, seed: int, most: int) -> None:
    for module in (counted, pending):
        monkeypatch.setattr(module, "MOST_RENDERED", most)
    by = Random(seed)
    release.release(work, "What the demo leaves open")
    for number in range(ROUNDS):
        made: list[Made] = []
        for _ in range(by.choice([1, 1, 3])):
            try:
                made.append(by.choice(CHANGES)(work, by))
            except Refusal:
                continue
        if made:
            check(work, made, f"seed {seed}, round {number}: {'; '.join(each.words for each in made)}")

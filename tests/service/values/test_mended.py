"""What once lost or broke things: each held to what it is now."""

from __future__ import annotations

from collections.abc import Callable
from datetime import UTC, datetime, timedelta
from typing import Any

import pytest
from sqlalchemy import Engine
from sqlalchemy.orm import Session

from tests.conftest import person
from young_fabric.core.base.errors import Refusal
from young_fabric.core.display.cascade import Scope
from young_fabric.core.pages.document import from_json
from young_fabric.core.pages.listed import of_type
from young_fabric.service import history
from young_fabric.service.acting.actors import Actor, Work
from young_fabric.service.acting.unit import unit_of_work
from young_fabric.service.checking import checks
from young_fabric.service.defining import definitions
from young_fabric.service.long_work import job_runs, jobs
from young_fabric.service.pages import proofs
from young_fabric.service.products import products
from young_fabric.service.releasing import pending, release
from young_fabric.service.values import judging
from young_fabric.service.values.recount import recount
from young_fabric.service.writing import writes
from young_fabric.store.base import make_sessions
from young_fabric.store.repos import jobs as job_rows
from young_fabric.store.repos import listings, releases

Sessions = Callable[[], Session]


def easel(work: Work) -> products.AssessedProduct:
    return products.search(work, products.Filters(words="Groyne Studio"), None).rows[0]


def given_to_easels(work: Work, name: str, **more: Any) -> str:
    """A new field that easels have."""
    key = definitions.create(work, "field", name, more).thing.key
    easels = writes.need_current(work, "product_type", "easels")
    definitions.change(work, "product_type", "easels", easels.version, {"fields": [*easels.thing.fields, key]})
    return str(key)


def fill(work: Work, **values: Any) -> products.AssessedProduct:
    current = easel(work)
    products.fill(work, current.product.id, current.version, values)
    return easel(work)


def live(work: Work, product: int, surface: str) -> Any:
    rows = {row.surface: row for row in releases.documents_of(work.session, "product", product)}
    return from_json(rows[surface].document)


def test_an_undo_whose_value_no_longer_fits_its_field_keeps_it_as_typed(work: Work) -> None:
    key = given_to_easels(work, "Remarks", kind="text", many=True)
    fill(work, **{key: ["one", "two"]})
    fill(work, **{key: []})
    emptied = history.history(work, "product", str(easel(work).product.id), None)[0]
    current = writes.need_current(work, "field", key)
    definitions.change(work, "field", key, current.version, {"many": False})
    history.undo(work, emptied.id)
    outcome = easel(work).outcomes[key]
    assert outcome.state == "wrong"
    proofs.documents(work, easel(work).product.id)
    release.release(work, "goes on")
    assert key not in {entry.field for entry in live(work, easel(work).product.id, "product_page").entries()}
    assert recount(work.session) == []


@pytest.mark.parametrize("value", [{"amount": "1"}, {"amount": "9" * 60, "unit": "kg"}, 7])
def test_a_measure_that_is_none_breaks_no_reader(work: Work, value: Any) -> None:
    key = given_to_easels(work, "Carries", kind="measure", options={"unit": "kg"})
    current = easel(work)
    try:
        products.fill(work, current.product.id, current.version, {key: value})
    except Refusal as refusal:
        assert refusal.where[:2] == ("values", key)
    for read in (lambda: history.history(work, None, None, None), lambda: pending.pending(work), lambda: easel(work)):
        read()
    history.undo_last(work)


def test_a_picture_names_one_the_shop_has(work: Work) -> None:
    ghost = {"file": "0" * 64, "alt": "", "width": 10, "height": 10}
    current = easel(work)
    with pytest.raises(Refusal) as caught:
        products.fill(work, current.product.id, current.version, {"pictures": [ghost]})
    assert (caught.value.code, caught.value.where[:2]) == ("picture_gone", ("values", "pictures"))
    absurd = fill(work, pictures=[{**ghost, "width": 10**12}])
    assert absurd.outcomes["pictures"].state == "wrong"
    release.release(work, "without it")
    page = live(work, absurd.product.id, "product_page")
    assert "pictures" not in {entry.field for entry in page.entries()}


def test_a_list_value_that_is_a_default_stays(work: Work) -> None:
    woods = definitions.create(work, "value_list", "Grains", {"values": [{"code": "oak", "label": "Oak"}]}).thing
    key = given_to_easels(work, "Grain", kind="one_of", options={"list": woods.key}, default="oak")
    version = writes.need_current(work, "value_list", woods.key).version
    with pytest.raises(Refusal) as caught:
        definitions.change(work, "value_list", woods.key, version, {"values": []})
    assert "Grain" in f"{caught.value.message} {caught.value.help}"
    assert easel(work).outcomes[key].state != "wrong"


@pytest.mark.parametrize("field", ["pictures", "gtin", "price"])
def test_data_for_other_systems_carry_no_stand_ins(work: Work, field: str) -> None:
    try:
        definitions.display(work, Scope("shop"), field, "structured_data", {"empty": "dash"}, None)
    except Refusal as refusal:
        assert refusal.where[0] == "set"
    definitions.display(work, Scope("shop"), field, "product_page", {"empty": "dash"}, None)
    fill(work, **{field: ""})
    release.release(work, "dashes")
    entries = live(work, easel(work).product.id, "structured_data").entries()
    assert field not in {entry.field for entry in entries}


@pytest.mark.parametrize("address", ["a/b", "../x", "//evil.example", "x" * 300])
def test_what_a_shop_can_not_stand_by_stays_behind_and_the_rest_goes_on(work: Work, address: str) -> None:
    release.release(work, "first")
    held = fill(work, slug=address)
    other = products.search(work, products.Filters(words="Fen Etching 300"), None).rows[0]
    products.fill(work, other.product.id, other.version, {"price": "77"})
    held_back = {thing.key: thing.held_back for thing in pending.pending(work).things}
    assert held_back[str(held.product.id)]
    done = release.release(work, "one stays")
    assert [row[0] for row in done.held_back] == [held.product.id]
    assert done.counts["product_page"] == 1
    assert pending.pending_count(work) == 1, "it is still to be released"
    addresses = {row.address for row in releases.documents_of(work.session, "product", held.product.id)}
    assert address not in addresses


def test_a_type_under_another_parent_is_listed_there(work: Work) -> None:
    release.release(work, "first")
    parent = definitions.create(work, "product_type", "Opaque", {}).thing.key
    gouache = writes.need_current(work, "product_type", "gouache")
    definitions.change(work, "product_type", "gouache", gouache.version, {"parent": parent})
    release.release(work, "moved")
    parts = listings.parts(work.session, str(of_type(parent)))
    rows = listings.cards(work.session, "listing_card", str(of_type(parent)), parts, 0, 50, "en-x-icu")
    count = sum(part.cards for part in parts)
    assert count == products.search(work, products.Filters(type="gouache"), None).total
    assert len(rows) == count


def test_what_is_said_of_a_product_goes_and_comes_back_with_it(work: Work) -> None:
    current = easel(work)
    definitions.display(
        work, Scope("product", str(current.product.id)), "ss_wood", "product_page", {"label": "above"}, None
    )
    key = f"product:{current.product.id}/ss_wood/product_page"
    version = writes.need_current(work, "display_setting", key).version
    products.remove(work, current.product.id, current.version)
    with pytest.raises(Refusal):
        writes.need_current(work, "display_setting", key)
    history.undo_last(work)
    back = writes.need_current(work, "display_setting", key)
    assert (back.thing.set, back.version > version) == ({"label": "above"}, True)


def test_a_version_that_never_was_is_refused(work: Work) -> None:
    wood = writes.need_current(work, "field", "ss_wood")
    for version in (wood.version + 1, 0, -1):
        with pytest.raises(Refusal):
            definitions.change(work, "field", "ss_wood", version, {"help": "x"})


def test_more_values_than_fit_a_request_are_judged_by_a_job(
    own_engine: Engine, monkeypatch: pytest.MonkeyPatch
) -> None:
    shop = make_sessions(own_engine)
    with shop() as session:
        rosa = person(session, 0)
    monkeypatch.setattr(judging, "MOST_AT_ONCE", 2)
    monkeypatch.setattr(judging, "BATCH", 5)
    asked: list[int] = []
    with unit_of_work(shop, rosa, hand_over=asked.append) as work:
        weight = writes.need_current(work, "field", "ss_paper_weight")
        definitions.change(work, "field", "ss_paper_weight", weight.version, {"limits": {"max": "200"}})
    with unit_of_work(shop, rosa) as work:
        assert "judging" in {check.code for check in checks.checks(work)}
    assert [job_runs.run(shop, number) for number in asked] == ["done"]
    with unit_of_work(shop, rosa) as work:
        assert "judging" not in {check.code for check in checks.checks(work)}
        assert products.search(work, products.Filters(wrong="ss_paper_weight"), None).total > 0
        assert recount(work.session) == []


class Killed(BaseException):
    """The worker is gone."""


def silence(shop: Sessions, rosa: Actor, number: int) -> None:
    """Nobody was heard of from a job for long."""
    with unit_of_work(shop, rosa) as work:
        row = job_rows.get(work.session, number)
        assert row is not None
        long_ago = datetime.now(UTC) - timedelta(minutes=5)
        job_rows.move(work.session, number, (row[0].state,), row[0].state, beat=long_ago)


@pytest.mark.parametrize(("where", "state"), [("_end", "done"), ("_freeze_definitions", "failed")])
def test_a_killed_worker_is_told_by_whether_the_release_is_there(
    shop: Sessions, rosa: Actor, monkeypatch: pytest.MonkeyPatch, where: str, state: str
) -> None:
    def killed(*_: object) -> None:
        raise Killed

    with unit_of_work(shop, rosa) as work:
        before = len(release.history(work))
        number = jobs.ask_for(work, "release", {"note": "Spring"}).id
    with monkeypatch.context() as patched:
        patched.setattr(job_runs if where == "_end" else release, where, killed)
        with pytest.raises(Killed):
            job_runs.run(shop, number)
    silence(shop, rosa, number)
    with unit_of_work(shop, rosa) as work:
        job = jobs.last_release(work)
        assert job is not None
        assert job.state == state
        assert len(release.history(work)) - before == (state == "done")
        assert (pending.pending_count(work) == 0) == (state == "done")


def test_a_job_that_nobody_took_is_handed_over_again_and_never_failed(shop: Sessions, rosa: Actor) -> None:
    again: list[int] = []
    with unit_of_work(shop, rosa) as work:
        number = jobs.ask_for(work, "release", {"note": "Spring"}).id
    for times in (1, 2, 3):
        silence(shop, rosa, number)
        jobs.keep_watch(shop, again.append)
        with unit_of_work(shop, rosa) as work:
            assert (again, jobs.get(work, number).state) == ([number] * times, "waiting")
    with unit_of_work(shop, rosa) as work:
        assert jobs.stop(work, number).state == "stopped"
        assert jobs.ask_for(work, "release", {"note": "Again"}).state == "waiting"

"""The proof and the weave: drafts as shoppers would see them, for types, products and the shop."""

from __future__ import annotations

import pytest

from young_fabric.core.base.errors import Refusal
from young_fabric.core.display.cascade import Scope
from young_fabric.core.pages.listed import of_type
from young_fabric.service.acting.actors import Work
from young_fabric.service.defining import definitions, fields
from young_fabric.service.pages import explaining, proofs, weave
from young_fabric.service.pages.explaining import About
from young_fabric.service.planning import plans
from young_fabric.service.products import find, products
from young_fabric.service.releasing import release
from young_fabric.service.writing import writes
from young_fabric.store.repos import shop
from young_fabric.store.repos.products import Search


def fen(work: Work) -> int:
    return products.search(work, products.Filters(words="Fen Etching 300"), None).rows[0].product.id


def shown_words(work: Work, number: int) -> dict[str, str]:
    return {entry.field: entry.text for entry in proofs.documents(work, number)[1]["product_page"].entries()}


def test_the_proof_follows_the_draft(work: Work) -> None:
    number = fen(work)
    assert shown_words(work, number)["ss_fibre"].startswith("Cotton")
    opened = products.get(work, number)
    products.fill(work, number, opened.version, {"ss_fibre": "Hemp"})
    assert shown_words(work, number)["ss_fibre"] == "Hemp"
    definitions.display(work, Scope("product", str(number)), "ss_fibre", "product_page", {"shown": False}, None)
    assert "ss_fibre" not in shown_words(work, number)
    steps = explaining.explain_field(work, About(number), "ss_fibre", "product_page").steps
    failed = next(step for step in steps if step.ok is False)
    assert failed.text == "Not shown on the product page by the setting on this product"
    assert failed.mend is not None
    assert failed.mend.key == f"product:{number}/ss_fibre/product_page"


def test_staff_fields_never_leave_the_studio(work: Work) -> None:
    paint = products.search(work, products.Filters(words="Peat"), None).rows[0].product
    definitions.display(work, Scope("shop"), "ss_series", "*", {"shown": True}, None)
    _, drafts = proofs.documents(work, paint.id)
    assert "ss_series" in paint.values
    for doc in (*drafts.values(), proofs.compared(work, [paint.id])[0][1]):
        assert "ss_series" not in {entry.field for entry in doc.entries()}


def test_feeds_get_what_shoppers_do_not_see(work: Work) -> None:
    paint = products.search(work, products.Filters(words="Peat"), None).rows[0].product
    _, drafts = proofs.documents(work, paint.id)
    assert "ss_hue" not in {entry.field for entry in drafts["product_page"].entries()}
    assert "ss_hue" in {entry.field for entry in drafts["structured_data"].entries()}


def test_listings_come_in_pages_and_leave_out_what_is_kept_out(work: Work) -> None:
    rows, total = proofs.cards(work, of_type("paint"))
    assert (len(rows), total) == (proofs.CARDS, 29)
    rest, _ = proofs.cards(work, of_type("paint"), proofs.CARDS)
    assert len(rest) == 5
    first = rows[0][0]
    opened = products.get(work, first.id)
    products.fill(work, first.id, opened.version, {}, offered=False)
    assert proofs.cards(work, of_type("paint"))[1] == 28
    assert {
        step.name: step.ok for step in explaining.explain_field(work, About(first.id), "title", "listing_card").steps
    }["visible"] is False


@pytest.mark.parametrize(
    ("attempt", "code"),
    [
        (lambda work: proofs.documents(work, 0), "not_found"),
        (lambda work: proofs.cards(work, of_type("nothing")), "not_found"),
        (lambda work: explaining.explain_field(work, About(1), "nothing", "product_page"), "not_found"),
        (lambda work: explaining.explain_field(work, About(1), "title", "nowhere"), "unknown_surface"),
        (lambda work: weave.weave(work, Scope("type", "nothing")), "not_found"),
        (lambda work: weave.weave(work, Scope("product", "0")), "not_found"),
        (lambda work: products.search(work, products.Filters(type="nothing"), None), "not_found"),
        (lambda work: release.go_back(work, 9), "not_found"),
        (lambda work: writes.need_current(work, "value_list", "nothing"), "not_found"),
    ],
)
def test_what_is_not_there_is_said(work: Work, attempt: object, code: str) -> None:
    with pytest.raises(Refusal) as caught:
        attempt(work)  # type: ignore[operator]
    assert caught.value.code == code


def test_an_example_is_the_fullest_of_the_first(work: Work) -> None:
    number = proofs.example_product(work, Search(types=("easels",)))
    assert number is not None
    assert products.get(work, number).product.type == "easels"
    assert proofs.example_product(work, Search(types=())) is None
    assert proofs.example_product(work, Search(types=("nothing",))) is None


def test_the_weave_holds_every_field_once_under_what_brings_it(work: Work) -> None:
    groups = weave.weave(work, Scope("type", "watercolour")).groups
    keys = [row.field.key for group in groups for row in group.rows]
    assert len(keys) == len(set(keys))
    assert groups[0].title == "Every product"
    assert [group.title for group in groups[1:]] == [
        "Paint basics",
        "Safety and care",
        "Origin",
        "Single fields of Paint",
        "Single fields of Watercolour",
    ]
    assert "by Paint" in groups[1].note
    assert "slug" not in keys, "built-in fields of staff are not for showing"
    assert "ss_series" in keys


def test_the_weave_of_one_product_tells_its_own_settings(work: Work) -> None:
    number = fen(work)
    scope = Scope("product", str(number))
    definitions.display(work, scope, "ss_fibre", "listing_card", {"shown": True, "label_text": "Made of"}, None)

    def cell(of: Scope, surface: str) -> weave.WeaveCell:
        rows = [row for group in weave.weave(work, of).groups for row in group.rows if row.field.key == "ss_fibre"]
        return next(found for found in rows[0].cells if found.surface == surface)

    own = cell(scope, "listing_card")
    assert (own.state, own.version, own.own["label_text"]) == ("here", 1, "Made of")
    assert cell(Scope("type", "printmaking_paper"), "listing_card").state == "off"
    assert cell(scope, "product_page").state == "inherited"


def test_plans_are_kept_until_a_definition_changes(work: Work) -> None:
    made = plans.draft_plans(work.session)
    opened = products.get(work, fen(work))
    products.fill(work, opened.product.id, opened.version, {"price": "7"})
    assert plans.draft_plans(work.session) is made, "products are no part of them"
    definitions.create(work, "value_list", "Naps", {})
    assert plans.draft_plans(work.session) is not made
    live = plans.live_plans(work.session)
    counts = plans.live_counts(work.session)
    assert plans.live_plans(work.session) is live
    assert plans.live_counts(work.session) is counts
    release.release(work, "naps")
    assert plans.live_plans(work.session) is not live
    assert "naps" in plans.live_plans(work.session).defs.lists
    assert shop.shop_of(work.session)[2] == 2


def test_find_leads_with_names_that_begin_so(work: Work) -> None:
    hits = [hit for hit in find.find(work, "pa") if hit.noun == "field"]
    assert [hit.name for hit in hits][:3] == ["Paper weight", "Weight of paper", "Opacity"]
    assert {hit.noun for hit in find.find(work, "")} == {
        "collection",
        "field",
        "field_set",
        "layout",
        "option_set",
        "product_type",
        "record",
        "record_type",
        "shared_copy",
        "value_list",
    }
    assert len([hit for hit in find.find(work, "e") if hit.noun == "field"]) <= find.MOST
    assert [hit.key for hit in find.find(work, "ss_hair")][:1] == ["ss_hair"]


def test_find_knows_values_and_options_and_leads_with_the_best_of_all(work: Work) -> None:
    values = [hit for hit in find.find(work, "etching") if hit.noun == "list_value"]
    assert ("suits/etching", "Etching") in [(hit.key, hit.name) for hit in values]
    assert all(hit.note for hit in values)
    first = find.find(work, "Etching")[0]
    assert (first.noun, first.name) == ("list_value", "Etching")
    own = {"options": [{"key": "cover", "name": "Cover", "values": [{"code": "slate", "label": "Heron cloth"}]}]}
    definitions.create(work, "option_set", "Bindings", own)
    assert [(hit.noun, hit.key) for hit in find.find(work, "heron cloth")] == [("option", "bindings/cover/slate")]
    assert ("option", "bindings/cover") in [(hit.noun, hit.key) for hit in find.find(work, "cover")]
    assert not [hit for hit in find.find(work, "") if hit.noun in ("list_value", "option")]


def test_at_most_twenty_texts_are_tried_at_a_time(work: Work) -> None:
    tried = fields.try_texts(work, "ss_paper_weight", {}, [str(number) for number in range(60, 90)])
    assert len(tried.texts) == 20
    assert tried.texts[0].stored == "60\u00a0g/m²"


@pytest.mark.parametrize(
    ("noun", "key"), [("field_set", "paper_basics"), ("field_set", "field_notes"), ("collection", "lightfast")]
)
def test_an_example_has_what_it_is_an_example_of(work: Work, noun: str, key: str) -> None:
    found = proofs.example_for(work, noun, key)
    assert found is not None
    defs = plans.draft(work.session)
    sets = {effective.set for effective in defs.applicable(defs.group_of(found.type, found.collections))}
    assert key in sets or key in found.collections

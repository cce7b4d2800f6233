"""Why: blocks, whole products and records, and what else decides, asked of a shop in use."""

from __future__ import annotations

import pytest

from young_fabric.core.base.errors import Refusal
from young_fabric.core.pages.listed import Listing
from young_fabric.service.acting.actors import Work
from young_fabric.service.defining import definitions
from young_fabric.service.pages import explaining, proofs
from young_fabric.service.pages.explaining import About
from young_fabric.service.products import products
from young_fabric.service.releasing import release
from young_fabric.store.repos import definitions as stored

PAGE = "product_page"


def product_of(work: Work, words: str) -> int:
    return products.search(work, products.Filters(words=words), None).rows[0].product.id


def failed(found: explaining.Explained) -> tuple[str, str, str]:
    step = next(step for step in found.steps if step.ok is False)
    assert step.mend is not None
    return step.name, step.text, f"{step.mend.noun}:{step.mend.key}"


def test_a_product_off_a_listing_says_which_rule_keeps_it_off_and_where_to_mend_it(work: Work) -> None:
    easel, paint = product_of(work, "Estuary Easel"), product_of(work, "Barley Ochre")
    assert explaining.explain_listing(work, paint, Listing("product_type", "paint")).steps[-1].name == "shows"
    name, words, mend = failed(explaining.explain_listing(work, easel, Listing("product_type", "paint")))
    assert (name, mend) == ("belongs", f"product:{easel}")
    assert "Easels" in words
    name, words, mend = failed(explaining.explain_listing(work, easel, Listing("collection", "small_change")))
    assert (name, mend) == ("belongs", "collection:small_change")
    assert "Price is" in words
    name, words, mend = failed(explaining.explain_listing(work, easel, Listing("record", "driftline_bindery")))
    assert name == "belongs"
    assert words == "Its Maker is not Driftline Bindery"


def test_what_stands_on_a_draft_listing_and_not_live_yet_says_so(work: Work) -> None:
    easel = product_of(work, "Estuary Easel")
    made = definitions.create(work, "collection", "Tall things", {"picked": [easel]}).thing
    found = explaining.explain_listing(work, easel, Listing("collection", made.key))
    assert [step.name for step in found.steps] == ["visible", "belongs", "live", "shows"]
    assert "the next release changes that" in found.steps[2].text
    release.release(work, "tall")
    found = explaining.explain_listing(work, easel, Listing("collection", made.key))
    assert (found.steps[2].text, found.steps[2].ok) == ("It stands there live", True)
    products.fill(work, easel, None, {}, offered=False)
    assert failed(explaining.explain_listing(work, easel, Listing("collection", made.key)))[0] == "visible"
    with pytest.raises(Refusal) as refused:
        explaining.explain_listing(work, easel, Listing("field", "title"))
    assert refused.value.code == "not_found"


def test_a_block_says_what_in_it_shows_or_why_nothing_does(work: Work) -> None:
    easel = About(product_of(work, "Estuary Easel"))
    shown = explaining.explain_block(work, easel, "panels", PAGE, None)
    assert shown.steps[-1].name == "shows"
    assert shown.steps[3].text.startswith("In it shows Details")
    oil = explaining.explain_block(work, easel, "safety", PAGE, "oils")
    assert failed(oil)[0] == "content"
    with pytest.raises(Refusal):
        explaining.explain_block(work, easel, "safety", PAGE, "nowhere")


def test_a_record_says_why_a_field_is_on_its_page_and_what_decides(work: Work) -> None:
    maker = About(record="driftline_bindery")
    found = explaining.explain_field(work, maker, "ss_maker_place", PAGE)
    assert (found.title, found.surface, found.steps[-1].name) == ("Driftline Bindery", "record_page", "shows")
    founded = failed(explaining.explain_field(work, maker, "ss_maker_founded", PAGE))
    assert founded == ("value", "There is no value", "record:driftline_bindery/ss_maker_founded")
    assert failed(explaining.explain_field(work, maker, "ss_wood", PAGE))[0] == "applies"
    state = stored.get(work.session, "record_type", "maker")
    assert state is not None
    definitions.change(work, "record_type", "maker", state.version, {"page": False})
    assert failed(explaining.explain_field(work, maker, "ss_maker_place", PAGE))[0] == "visible"
    assert [decider.noun for decider in found.deciders] == ["field", "layout", "block"]
    for about in (About(), About(record="nobody")):
        with pytest.raises(Refusal):
            explaining.explain_field(work, about, "title", PAGE)
    with pytest.raises(Refusal):
        proofs.need_product_surface("record_page")

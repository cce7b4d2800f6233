"""Texts of many fields made together are what they are one by one, whatever is stored."""

from __future__ import annotations

from dataclasses import replace
from typing import Any
from unittest import mock

from hypothesis import given
from hypothesis import strategies as st

from tests.core.pages.test_resolve import VALUES, definitions
from young_fabric.core.definitions.definitions import Definitions
from young_fabric.core.definitions.groups import Group
from young_fabric.core.display.cascade import DisplaySetting, Scope
from young_fabric.core.nouns.fields.fields import Field
from young_fabric.core.nouns.layouts.display_settings import setting_key
from young_fabric.core.pages import bare_texts
from young_fabric.core.pages.document import Entry
from young_fabric.core.pages.plan import Plan, compile_plan
from young_fabric.core.subjects.products import Product

KINDS = ["text"] * 14 + ["long_text", "whole", "yes_no", "text"]
KEYS = [f"t{number}" for number in range(len(KINDS))]


def wide() -> Definitions:
    """A type with many fields of texts, some within lengths, some others among them."""
    defs = definitions()
    for number, (key, kind) in enumerate(zip(KEYS, KINDS, strict=True)):
        limits = {"min_length": 2, "max_length": 9} if number == 3 else {}
        defs = defs.having("field", key, Field(key, key.title(), key.title(), kind, many=number == 17, limits=limits))
    paint = defs.types["paint"]
    return defs.having("product_type", "paint", replace(paint, fields=(*paint.fields, *KEYS)))


DEFS = wide()
SETTINGS = [
    DisplaySetting(Scope("type", "paint"), "t1", "product_page", {"label": "above", "devices": ["phone"]}),
    DisplaySetting(Scope("type", "paint"), "t2", "product_page", {"before": "about"}),
    DisplaySetting(Scope("type", "paint"), "t4", "product_page", {"label_text": "Fourth"}),
    DisplaySetting(Scope("type", "paint"), "t5", "product_page", {"empty": "dash"}),
]
for setting in SETTINGS:
    DEFS = DEFS.having("display_setting", str(setting_key(setting)), setting)
STORED = st.one_of(
    st.text(max_size=12), st.sampled_from(["Fine", "Two\nlines", "", "12", "x" * 600, " "]), st.booleans(), st.integers(),
    st.just(["a"]), st.just({"a": 1}), st.none(),
)  # fmt: skip


def plan_of() -> Plan:
    return compile_plan(DEFS, Group("paint"), "product_page")


TOGETHER = plan_of()
with mock.patch.object(bare_texts, "FEWEST", 1_000):
    ONE_BY_ONE = plan_of()


def test_many_texts_are_made_together() -> None:
    def bare(plan: Plan) -> list[int]:
        return [len(block.bare.fields) for block in plan.region.blocks if block.bare is not None]

    assert bare(TOGETHER) == [12]
    assert bare(ONE_BY_ONE) == []


@given(st.dictionaries(st.sampled_from(KEYS), STORED))
def test_documents_are_the_same_however_they_are_made(stored: dict[str, Any]) -> None:
    product = Product(1, "paint", {**VALUES, **stored})
    together, apart = TOGETHER.render(product), ONE_BY_ONE.render(product)
    assert together == apart
    for entry in together.entries():
        assert entry.__class__ is Entry
        assert entry.text is not None


@given(st.dictionaries(st.sampled_from(KEYS[:14]), st.sampled_from(["Fine", "Soft", "Clear glaze"])))
def test_texts_that_are_good_are_the_same_too(stored: dict[str, Any]) -> None:
    product = Product(1, "paint", stored)
    assert TOGETHER.render(product) == ONE_BY_ONE.render(product)

"""Texts of many fields made together are what they are one by one, whatever is stored."""

from __future__ import annotations

from collections.abc import Callable, Mapping
from dataclasses import replace
from typing import Any
from unittest import mock

import pytest
from hypothesis import given
from hypothesis import strategies as st

from tests.core.pages.test_resolve import VALUES, definitions
from young_fabric.core.definitions.definitions import Definitions
from young_fabric.core.definitions.groups import Group
from young_fabric.core.display.cascade import DisplaySetting, Scope
from young_fabric.core.display.choices import Choice
from young_fabric.core.display.properties import PROPERTIES
from young_fabric.core.display.property import Property
from young_fabric.core.display.surfaces import SURFACES
from young_fabric.core.kinds import Spec
from young_fabric.core.kinds.texts import Text
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


CASE = Property(
    "text_case",
    "Letters",
    "choice",
    lambda _value: None,
    lambda _kind, _surface: "",
    str,
    (Choice("", "as typed"), Choice("upper", "capitals")),
    writes=True,
)


def otherwise(prop: Property) -> Any:
    """A value that is not what holds where nothing is set."""
    usual = prop.default(Text(), SURFACES["product_page"])
    return next((choice.value for choice in prop.choices if choice.value != usual), "kg")


@pytest.fixture
def cased(monkeypatch: pytest.MonkeyPatch) -> None:
    """Texts go by one property more, registered as any other."""
    plain = Text.shower

    def shower(kind: Text, spec: Spec, properties: Mapping[str, Any]) -> Callable[[Any], Any]:
        show = plain(kind, spec, properties)
        return (lambda value: show(value.upper())) if properties.get("text_case") == "upper" else show

    monkeypatch.setattr(Text, "shower", shower)
    monkeypatch.setattr(Text, "formats", (*Text.formats, "text_case"), raising=False)
    monkeypatch.setitem(PROPERTIES, CASE.code, CASE)


@pytest.mark.usefixtures("cased")
@pytest.mark.parametrize("code", [*(code for code, prop in PROPERTIES.items() if prop.writes), CASE.code])
@pytest.mark.parametrize("count", [1, 12, 14])
def test_how_texts_are_written_holds_of_few_and_of_many(code: str, count: int) -> None:
    setting = DisplaySetting(Scope("type", "paint"), "*", "product_page", {code: otherwise(PROPERTIES[code])})
    defs = wide().having("display_setting", str(setting_key(setting)), setting)
    product = Product(1, "paint", {**VALUES, **dict.fromkeys(KEYS[:count], "warm grey")})
    together = compile_plan(defs, Group("paint"), "product_page").render(product)
    with mock.patch.object(bare_texts, "FEWEST", 1_000):
        assert together == compile_plan(defs, Group("paint"), "product_page").render(product)
    shown = [entry.text for entry in together.entries() if entry.field in KEYS[:count]]
    assert len(shown) == count
    if code in ("before", "after", CASE.code):
        assert set(shown) == {{"before": "kg warm grey", "after": "warm grey kg"}.get(code, "WARM GREY")}

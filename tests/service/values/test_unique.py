"""Values of the shop's own fields that no two products share."""

from __future__ import annotations

from collections.abc import Callable
from typing import Any

import pytest
from sqlalchemy.orm import Session

from young_fabric.core.base.errors import Refusal
from young_fabric.service import history
from young_fabric.service.acting.actors import Work
from young_fabric.service.defining import definitions, new_fields
from young_fabric.service.defining.new_fields import Taker
from young_fabric.service.products import products
from young_fabric.service.values.value_states import ValueEdit
from young_fabric.service.values.value_writer import put_many
from young_fabric.service.writing import writes

Sessions = Callable[[], Session]


def easels(work: Work) -> list[Any]:
    return [row.product for row in products.search(work, products.Filters(type="easels"), None).rows]


def fill(work: Work, number: int, key: str, value: Any) -> None:
    products.fill(work, number, products.get(work, number).version, {key: value})


@pytest.fixture
def serial(work: Work) -> str:
    given = {"kind": "text", "limits": {"unique": True}}
    return new_fields.make(work, "Serial number", given, None, Taker("product_type", "easels"))


def test_no_two_products_get_the_same_value(work: Work, serial: str) -> None:
    first, second, third = easels(work)[:3]
    fill(work, first.id, serial, "A1")
    fill(work, first.id, serial, "A1")
    with pytest.raises(Refusal) as refused:
        fill(work, second.id, serial, "A1")
    assert (refused.value.code, refused.value.where) == ("taken", ("values", serial))
    assert first.title in refused.value.message
    with pytest.raises(Refusal, match="Two products would have"):
        put_many(work, [ValueEdit(second.id, values={serial: "B"}), ValueEdit(third.id, values={serial: "B"})])
    put_many(work, [ValueEdit(first.id, values={serial: "B"}), ValueEdit(second.id, values={serial: "A1"})])
    assert products.get(work, second.id).product.values[serial] == "A1"


def test_an_undo_that_would_give_a_value_twice_is_refused(work: Work, serial: str) -> None:
    first, second = easels(work)[:2]
    fill(work, first.id, serial, "A1")
    fill(work, first.id, serial, "A2")
    was = history.history(work, "product", str(first.id), None)[0].id
    fill(work, second.id, serial, "A1")
    with pytest.raises(Refusal) as refused:
        history.undo(work, was)
    assert refused.value.code == "taken"


def test_it_is_asked_for_only_while_nothing_is_shared(work: Work, serial: str) -> None:
    current = writes.need_current(work, "field", serial)
    definitions.change(work, "field", serial, current.version, {"limits": {}})
    first, second = easels(work)[:2]
    fill(work, first.id, serial, "A1")
    fill(work, second.id, serial, "A1")
    with pytest.raises(Refusal) as refused:
        definitions.change(work, "field", serial, current.version + 1, {"limits": {"unique": True}})
    assert (refused.value.code, refused.value.where) == ("taken", ("limits", "unique"))
    assert f"2 products share their value with another: {first.title} (A1)" in refused.value.message
    fill(work, second.id, serial, "A2")
    definitions.change(work, "field", serial, current.version + 1, {"limits": {"unique": True}})


@pytest.mark.parametrize(
    ("given", "code"),
    [
        ({"kind": "text", "many": True, "limits": {"unique": True}}, "limit"),
        ({"kind": "text", "subject": "collection", "limits": {"unique": True}}, "limit"),
        ({"kind": "text", "limits": {"unique": False}}, "limit"),
        ({"kind": "long_text", "limits": {"unique": True}}, "limit"),
        ({"kind": "text", "limits": {"unique": True}, "default": "x"}, "default"),
        (
            {"kind": "rows", "options": {"columns": [{"label": "A", "kind": "text", "limits": {"unique": True}}]}},
            "columns",
        ),
    ],
)
def test_where_it_makes_no_sense_it_is_refused(work: Work, given: Any, code: str) -> None:
    with pytest.raises(Refusal) as refused:
        definitions.create(work, "field", "Serial", given)
    assert refused.value.code == code


def test_two_products_can_change_their_codes_with_each_other_and_nobody_gets_another_s(work: Work) -> None:
    first, second, third = easels(work)[:3]
    codes = [products.get(work, row.id).product.values["sku"] for row in (first, second, third)]
    swapped = [ValueEdit(first.id, values={"sku": codes[1]}), ValueEdit(second.id, values={"sku": codes[0]})]
    put_many(work, swapped)
    assert [products.get(work, row.id).product.values["sku"] for row in (first, second)] == [codes[1], codes[0]]
    with pytest.raises(Refusal) as refused:
        put_many(work, [ValueEdit(first.id, values={"sku": codes[2]}), ValueEdit(second.id, values={"sku": "NEW-1"})])
    assert (refused.value.code, refused.value.where) == ("taken", ("values", "sku"))
    with pytest.raises(Refusal, match="Two products would have"):
        put_many(work, [ValueEdit(first.id, values={"sku": "X-1"}), ValueEdit(second.id, values={"sku": "X-1"})])

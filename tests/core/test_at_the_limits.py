"""Every limit at it and one beyond: what just fits is taken, and one more is not."""

from __future__ import annotations

import io
import zipfile
from collections.abc import Callable
from decimal import Decimal
from typing import Any

import pytest

from tests.core.saltmarsh import SALTMARSH, STATES, state
from young_fabric.core.base.conditions import _number
from young_fabric.core.base.errors import Refusal
from young_fabric.core.base.locales import LONGEST_NUMBER, is_plain_decimal, read_number
from young_fabric.core.definitions.reach import Reach
from young_fabric.core.display.related import MOST_SAME, _check_same
from young_fabric.core.display.surfaces import (
    addressed_surface,
    compared_surface,
    data_surface,
    listed_surface,
    record_surface,
)
from young_fabric.core.interchange import tables
from young_fabric.core.kinds import KINDS, Spec, file_types, limits, patterns
from young_fabric.core.kinds.links import LONGEST_WORDS
from young_fabric.core.kinds.numbers import MOST_PIECES
from young_fabric.core.kinds.pictures import LONGEST_SIDE
from young_fabric.core.kinds.references import MOST_PRODUCTS
from young_fabric.core.kinds.rich_text import LONGEST_RICH_TEXT
from young_fabric.core.nouns.fields.conditions import LONGEST_PART, read_condition
from young_fabric.core.nouns.fields.fields import Field
from young_fabric.core.nouns.layouts.layout_edits import MOST_EDITS, changed_layout
from young_fabric.core.nouns.layouts.layouts import MOST_STEPS, check_layout
from young_fabric.core.nouns.lists.list_reading import paste
from young_fabric.core.nouns.lists.value_lists import MOST_VALUES
from young_fabric.core.nouns.options.effects import LONGEST_PART as LONGEST_SKU_PART
from young_fabric.core.nouns.options.effects import Effect, check_effect
from young_fabric.core.nouns.registry import NOUNS
from young_fabric.core.options.requests import LONGEST_NAME, UPLOADS, is_upload
from young_fabric.core.options.sku import LONGEST as LONGEST_SKU
from young_fabric.core.options.sku import make_sku
from young_fabric.core.subjects.products import Product
from young_fabric.core.subjects.values import FieldRules
from young_fabric.core.subjects.variants import MOST_LINES, describe_offered
from young_fabric.store.states import thing_of

FILE = "a" * 64
PICTURE = {"file": FILE, "alt": "", "width": 1, "height": 1}
UPLOAD = {"file": FILE, "name": "x", "type": next(iter(UPLOADS)), "bytes": 1, "width": 1, "height": 1}


def taken(call: Callable[[], Any]) -> bool:
    """Whether nothing is refused."""
    try:
        call()
    except Refusal:
        return False
    return True


def well_formed(kind: str, value: Any) -> bool:
    return bool(KINDS[kind].well_formed(value))


def limit_is_taken(kind: str, code: str, value: Any) -> bool:
    field = Field("x", "X", "X", kind, False, {}, {code: value})
    return limits_wrong(field) is None


def limits_wrong(field: Field) -> Refusal | None:
    found = next(limit for limit in field.rules.limits if limit.code in field.limits)
    return found.check(field.limits[found.code])


def columns(label: str) -> Any:
    given = [{"key": "a", "label": label, "kind": "text"}]
    return KINDS["rows"].options[0].check(given)


def list_of(count: int) -> Any:
    values = [{**STATES["value_list"]["wood"]["values"][0], "code": f"w{n}", "label": f"W{n}"} for n in range(count)]
    return thing_of("value_list", state("value_list", "wood", ("values", values)))


def layout_of_steps(count: int) -> Any:
    steps = [{"key": f"remove:b{n}", "op": "remove", "id": f"b{n}"} for n in range(count)]
    return thing_of("layout", state("layout", "easels", ("steps", steps)))


def edits(count: int) -> Any:
    return changed_layout(SALTMARSH, "easels", [{"op": "set", "id": "details", "props": {"heading": "D"}}] * count)


def told_of(count: int) -> list[str]:
    def of(sku: str) -> dict[str, Any]:
        rows = [{"id": n, "sku": f"{sku}{n}", "choices": {}, "values": {}, "unread": {}} for n in range(count)]
        return {"sets": [], "variants": rows}

    return describe_offered(of("A"), of("B"), SALTMARSH)


def fields_of_type(count: int) -> Any:
    made = thing_of("record_type", state("record_type", "maker", ("fields", [f"f{n}" for n in range(count)])))
    try:
        NOUNS["record_type"].check(made, SALTMARSH)
    except Refusal as refusal:
        return refusal.code
    return None


TRIED: list[tuple[str, Callable[[int], bool], int]] = [
    ("digits of a number", lambda n: is_plain_decimal("9" * n), LONGEST_NUMBER),
    ("digits typed", lambda n: taken(lambda: read_number("9" * n, "en")), LONGEST_NUMBER),
    ("signs typed for a number", lambda n: taken(lambda: read_number("0" * n, "en")), 2 * LONGEST_NUMBER),
    ("exponent of a number compared", lambda n: _number(Decimal(f"1e{n}")) is not None, 40),
    ("fields asked to be the same", lambda n: _check_same([f"f{i}" for i in range(n)]) is None, MOST_SAME),
    ("a limit that counts", lambda n: limits._count(limits.MOST + 1, "x")(n) is None, limits.MOST),
    ("megabytes of a file", lambda n: limit_is_taken("file", "max_megabytes", str(n)), limits.MOST_MEGABYTES),
    (
        "words of a link",
        lambda n: well_formed("web_link", {"words": "x" * n, "address": "https://a.test/"}),
        LONGEST_WORDS,
    ),
    ("pieces of contents", lambda n: well_formed("contents", {"count": n, "amount": "1", "unit": "ml"}), MOST_PIECES),
    ("width of a picture", lambda n: well_formed("picture", {**PICTURE, "width": n}), LONGEST_SIDE),
    ("number of a product", lambda n: well_formed("product", n), MOST_PRODUCTS - 1),
    ("number typed of a product", lambda n: taken(lambda: KINDS["product"].read(str(n), Spec())), MOST_PRODUCTS - 1),
    ("formatted text with tags", lambda n: well_formed("rich_text", f"<p>{'x' * (n - 7)}</p>"), 4 * LONGEST_RICH_TEXT),
    ("formatted text typed", lambda n: taken(lambda: KINDS["rich_text"].read("x" * n, Spec())), 4 * LONGEST_RICH_TEXT),
    ("label of a column", lambda n: columns("x" * n) is None, 80),
    ("fields of a record type", lambda n: fields_of_type(n) != "too_many", 100),
    (
        "text looked for",
        lambda n: taken(lambda: read_condition({"field": "title", "op": "contains", "typed": "x" * n}, SALTMARSH)),
        LONGEST_PART,
    ),
    ("steps of a layout", lambda n: taken(lambda: check_layout(layout_of_steps(n), SALTMARSH)), MOST_STEPS),
    ("edits at once", lambda n: taken(lambda: edits(n)), MOST_EDITS),
    ("values of a list", lambda n: taken(lambda: NOUNS["value_list"].check(list_of(n), SALTMARSH)), MOST_VALUES),
    ("values pasted", lambda n: not paste(list_of(n - 1), "Another").skipped, MOST_VALUES),
    ("part of a SKU", lambda n: taken(lambda: check_effect(Effect(sku="X" * n))), LONGEST_SKU_PART),
    ("a SKU", lambda n: taken(lambda: make_sku("X" * n, "keep", (), "-")), LONGEST_SKU),
    ("name of a file sent", lambda n: is_upload({**UPLOAD, "name": "x" * n}), LONGEST_NAME),
    ("lines of a change", lambda n: told_of(n)[-1] != "and more", MOST_LINES),
]


@pytest.mark.parametrize(("fits", "most"), [row[1:] for row in TRIED], ids=[row[0] for row in TRIED])
def test_what_just_fits_is_taken_and_one_more_is_not(fits: Callable[[int], bool], most: int) -> None:
    assert fits(most)
    assert not fits(most + 1)


LEAST: list[tuple[str, Callable[[int], bool], int]] = [
    ("width of a picture", lambda n: well_formed("picture", {**PICTURE, "width": n}), 1),
    ("words of a link", lambda n: well_formed("web_link", {"words": "x" * n, "address": "https://a.test/"}), 1),
    ("number of a product", lambda n: well_formed("product", n), 1),
    ("number typed of a product", lambda n: taken(lambda: KINDS["product"].read(str(n), Spec())), 1),
    ("name of a file sent", lambda n: is_upload({**UPLOAD, "name": "x" * n}), 1),
    ("edits at once", lambda n: taken(lambda: edits(n)), 1),
    ("a limit that counts", lambda n: limits._count(5, "x")(n) is None, 0),
]


@pytest.mark.parametrize(("fits", "least"), [row[1:] for row in LEAST], ids=[row[0] for row in LEAST])
def test_the_least_is_taken_and_one_less_is_not(fits: Callable[[int], bool], least: int) -> None:
    assert fits(least)
    assert not fits(least - 1)


def test_a_table_has_so_many_cells(monkeypatch: pytest.MonkeyPatch) -> None:
    monkeypatch.setattr(tables, "MOST_CELLS", 4)
    assert tables.read_csv("a,b\nc,d\n") == [["a", "b"], ["c", "d"]]
    with pytest.raises(Refusal):
        tables.read_csv("a,b\nc,d\ne\n")


def test_an_archive_has_so_many_members(monkeypatch: pytest.MonkeyPatch) -> None:
    monkeypatch.setattr(file_types, "MOST_MEMBERS", 2)

    def members(count: int) -> frozenset[str]:
        held = io.BytesIO()
        with zipfile.ZipFile(held, "w") as archive:
            for number in range(count):
                archive.writestr(f"m{number}", "")
        return file_types._members(held.getvalue())

    assert members(2) == {"m0", "m1"}
    assert members(3) == frozenset()
    assert file_types._members(b"no archive") == frozenset()


def test_a_pattern_is_so_large(monkeypatch: pytest.MonkeyPatch) -> None:
    size = next(n for n in range(1, 200) if fits_pattern(monkeypatch, "a{5}b", n))
    assert not fits_pattern(monkeypatch, "a{5}b", size - 1)


@pytest.mark.parametrize(
    ("pattern", "sound"),
    [
        ("P[BY][0-9]{1,3}", True),
        ("P[BY][0-9]{1,3", False),
        ("a{2", False),
        ("a{2,", False),
        ("a{2,}", True),
        (r"a\{2", True),
        ("[{2]", True),
        (r"[\]{2]", True),
        ("{x", True),
        ("a{2}b{3", False),
    ],
)
def test_a_number_of_times_is_ended(pattern: str, sound: bool) -> None:
    assert taken(lambda: patterns.check_pattern(pattern)) is sound


def fits_pattern(monkeypatch: pytest.MonkeyPatch, pattern: str, most: int) -> bool:
    monkeypatch.setattr(patterns, "MOST_STEPS", most)
    return taken(lambda: patterns.check_pattern(pattern))


def test_the_smallest_is_not_above_the_largest() -> None:
    field = next(field for field in SALTMARSH.fields.values() if field.kind == "measure")

    def sound(least: str, most: str) -> bool:
        made = Field(field.key, field.name, field.label, field.kind, False, field.options, {"min": least, "max": most})
        return taken(lambda: NOUNS["field"].check(made, SALTMARSH))

    assert sound("5", "5")
    assert not sound("5.1", "5")


def test_rules_are_bound_for_every_field() -> None:
    for field in SALTMARSH.fields.values():
        assert FieldRules(field, SALTMARSH.spec(field)).field is field


@pytest.mark.parametrize(("stock", "out"), [(None, False), (-1, True), (0, True), (1, False)])
def test_a_product_is_sold_out_when_none_is_left(stock: int | None, out: bool) -> None:
    assert Product(1, "easels", {}, stock=stock).sold_out is out


def test_a_reach_is_of_some_or_of_none() -> None:
    assert not Reach()
    assert Reach(frozenset({"easels"}))
    assert Reach(collections=frozenset({"outdoors"}))


def test_each_page_that_others_lead_to_is_of_one_surface() -> None:
    assert [found().code for found in (addressed_surface, listed_surface, data_surface, record_surface)] == [
        "product_page",
        "listing_card",
        "structured_data",
        "record_page",
    ]
    assert compared_surface().code == "compare"


def test_what_no_kind_is_known_for_tells_its_kind() -> None:
    with pytest.raises(Refusal) as caught:
        KINDS["of another day" * 5].read("x", Spec())
    assert caught.value.code

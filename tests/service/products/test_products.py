"""Products: filling as typed, uniqueness, lists and filters, stock, pictures."""

from __future__ import annotations

import io
from pathlib import Path

import pytest
from PIL import Image

from young_fabric.core.base.errors import Refusal
from young_fabric.service import history
from young_fabric.service.acting.actors import Clash, Work
from young_fabric.service.defining import definitions
from young_fabric.service.files import pictures
from young_fabric.service.foreseeing import value_effects
from young_fabric.service.pages import explaining, proofs
from young_fabric.service.pages.explaining import About
from young_fabric.service.products import products
from young_fabric.service.values import recount
from young_fabric.service.writing import writes
from young_fabric.store.files import FilesOnDisk


def opened(work: Work, words: str) -> products.AssessedProduct:
    return products.search(work, products.Filters(words=words), None).rows[0]


def fill(work: Work, row: products.AssessedProduct, **typed: object) -> products.AssessedProduct:
    return products.fill(work, row.product.id, row.version, typed)


def test_a_product_is_made_from_its_title(work: Work) -> None:
    made = products.create(work, "canvas", "  Ketch Linen 20 × 20 ")
    assert made.product.title == "Ketch Linen 20 × 20"
    assert made.product.values["slug"] == "ketch-linen-20-20"
    assert products.create(work, "canvas", "Ketch Linen 20 20").product.values["slug"] == "ketch-linen-20-20-2"
    assert made.completeness.next == "sku"
    for title, code in (("", "required"), ("x" * 200, "long")):
        with pytest.raises(Refusal) as caught:
            products.create(work, "canvas", title)
        assert caught.value.code == code


def test_typed_text_becomes_values_and_what_is_not_understood_is_kept(work: Work) -> None:
    fen = opened(work, "Fen Etching 300")
    assert fen.product.unread == {"ss_pressure": "12 kg"}
    assert fen.outcomes["ss_pressure"].state == "wrong"
    mended = fill(work, fen, ss_pressure="0.4 bar", ss_sizing="both", ss_suits="Etching, ink")
    assert mended.product.values["ss_pressure"] == {"amount": "40", "unit": "kPa"}
    assert mended.product.values["ss_suits"] == ["etching", "ink"]
    assert mended.product.unread == {}
    assert mended.completeness.required_missing == ()
    emptied = fill(work, mended, ss_sizing="")
    assert emptied.completeness.next == "ss_sizing"


def test_a_value_beyond_a_limit_is_kept_and_wrong(work: Work) -> None:
    fen = fill(work, opened(work, "Fen Etching 300"), ss_paper_weight="800")
    assert fen.product.values["ss_paper_weight"] == {"amount": "800", "unit": "g/m²"}
    assert fen.outcomes["ss_paper_weight"].wrong is not None
    assert "ss_paper_weight" in fen.completeness.required_missing
    doc = proofs.documents(work, fen.product.id)[1]["product_page"]
    assert "ss_paper_weight" not in {entry.field for entry in doc.entries()}


@pytest.mark.parametrize(
    ("typed", "code"),
    [
        ({"ss_hair": "Goat"}, "unknown_field"),
        ({"unit_price": "3"}, "unknown_field"),
        ({"title": " "}, "required"),
        ({"sku": "FE-250B"}, "taken"),
        ({"slug": "fen-etching-250-buff"}, "taken"),
        ({"slug": "Not An Address"}, None),
        ({"ss_nothing": "x"}, "unknown_field"),
    ],
)
def test_what_can_not_be_filled_is_refused_at_its_place(work: Work, typed: dict[str, object], code: str | None) -> None:
    fen = opened(work, "Fen Etching 300")
    if code is None:
        assert fill(work, fen, **typed).outcomes["slug"].state == "wrong"
        return
    with pytest.raises(Refusal) as caught:
        fill(work, fen, **typed)
    assert caught.value.code == code
    assert caught.value.where == ("values", next(iter(typed)))


def test_two_people_filling_one_product_are_told(work: Work) -> None:
    fen = opened(work, "Fen Etching 300")
    fill(work, fen, price="7")
    with pytest.raises(Clash) as caught:
        fill(work, fen, price="8")
    assert caught.value.theirs["values"]["price"] == "7"  # type: ignore[index]
    assert caught.value.yours["values"]["price"] == "8"  # type: ignore[index]


def test_another_type_keeps_values_it_does_not_show(work: Work) -> None:
    fen = opened(work, "Fen Etching 300")
    moved = products.fill(work, fen.product.id, fen.version, {}, type_key="drawing_paper")
    assert "ss_dampening" in moved.product.values
    assert "ss_dampening" not in moved.outcomes
    back = products.fill(work, fen.product.id, moved.version, {}, type_key="printmaking_paper")
    assert back.outcomes["ss_dampening"].state == "good"


def test_a_value_is_wrong_only_where_the_type_has_the_field(work: Work) -> None:
    fen = opened(work, "Fen Etching 300")
    count = products.count_gaps(work)
    assert products.search(work, products.Filters(wrong="ss_pressure"), None).total == 1
    filled = fill(work, fen, ss_sizing="Both")
    moved = products.fill(work, fen.product.id, filled.version, {}, type_key="drawing_paper")
    assert moved.product.unread == {"ss_pressure": "12 kg"}, "kept, and no longer asked about"
    assert products.search(work, products.Filters(wrong="ss_pressure"), None).total == 0
    assert products.count_gaps(work) == count - 1


def test_values_are_judged_when_their_field_comes_to_a_type_and_let_go_when_it_leaves(work: Work) -> None:
    fen = opened(work, "Fen Etching 300")
    filled = fill(work, fen, ss_sizing="Both")
    products.fill(work, fen.product.id, filled.version, {}, type_key="drawing_paper")
    _, version = writes.need_current(work, "field", "ss_dampening")
    definitions.change(work, "field", "ss_dampening", version, {"limits": {"max_length": 5}})
    wrong = products.Filters(wrong="ss_dampening")
    others = products.search(work, wrong, None).total
    assert fen.product.id not in {row.product.id for row in products.search(work, wrong, None).rows}
    kind, version = writes.need_current(work, "product_type", "drawing_paper")
    given = definitions.change(work, "product_type", "drawing_paper", version, {"sets": [*kind.sets, "printmaking"]})
    assert products.search(work, wrong, None).total == others + 1
    assert products.search(work, products.Filters(wrong="ss_pressure"), None).total == 1, "typed text counts again"
    assert opened(work, "Fen Etching 300").outcomes["ss_dampening"].state == "wrong"
    definitions.change(work, "product_type", "drawing_paper", given.version, {"sets": list(kind.sets)})
    assert products.search(work, wrong, None).total == others
    assert products.search(work, products.Filters(wrong="ss_pressure"), None).total == 0
    gaps_now = products.count_gaps(work)
    recount.recount(work.session)
    assert products.count_gaps(work) == gaps_now


def test_a_removed_product_comes_back(work: Work) -> None:
    fen = opened(work, "Fen Etching 300")
    products.remove(work, fen.product.id, fen.version)
    with pytest.raises(Refusal):
        products.get(work, fen.product.id)
    history.undo_last(work)
    assert products.get(work, fen.product.id).product.values == fen.product.values


def test_stock_is_counted_or_not_and_clashes_are_told(work: Work) -> None:
    fen = opened(work, "Fen Etching 300")
    assert products.set_stock(work, fen.product.id, 60, 0) == 0
    with pytest.raises(Clash):
        products.set_stock(work, fen.product.id, 60, 5)
    history.undo_last(work)
    assert products.get(work, fen.product.id).product.stock == 60
    assert products.set_stock(work, fen.product.id, 60, None) is None


@pytest.mark.parametrize(
    ("filters", "titles"),
    [
        ({"words": "fen etch"}, {"Fen Etching 300", "Fen Etching 250 Buff"}),
        ({"words": "FE-300"}, {"Fen Etching 300"}),
        ({"words": "!!"}, set()),
        ({"lacking": "ss_cover"}, {"Limpet Pocket Book"}),
        ({"wrong": "ss_pressure"}, {"Fen Etching 300"}),
        ({"type": "sketchbooks", "gaps": True}, {"Limpet Pocket Book"}),
    ],
)
def test_lists_are_narrowed(work: Work, filters: dict[str, object], titles: set[str]) -> None:
    found = products.search(work, products.Filters(**filters), None)  # type: ignore[arg-type]
    assert {row.product.title for row in found.rows} == titles
    assert found.total == len(titles)


def test_a_type_takes_in_all_below_it_and_pages_follow_on(work: Work) -> None:
    whole = products.search(work, products.Filters(type="paint"), None)
    assert whole.total == 29
    pages, cursor = [], None
    while True:
        page = products.search(work, products.Filters(type="paint"), cursor, 10)
        pages.append([row.product.id for row in page.rows])
        cursor = page.cursor
        if cursor is None:
            break
    assert [len(page) for page in pages] == [10, 10, 9]
    assert [row for page in pages for row in page] == [row.product.id for row in whole.rows]
    with pytest.raises(Refusal) as caught:
        products.search(work, products.Filters(), "not a cursor")
    assert caught.value.code == "cursor"


def test_gaps_by_question_agree_with_completeness(work: Work) -> None:
    with_gaps = {row.product.id for row in products.search(work, products.Filters(gaps=True), None).rows}
    every: list[products.AssessedProduct] = []
    cursor = None
    while True:
        page = products.search(work, products.Filters(), cursor)
        every += page.rows
        cursor = page.cursor
        if cursor is None:
            break
    assert with_gaps == {
        row.product.id
        for row in every
        if row.completeness.required_missing or any(found.state == "wrong" for found in row.outcomes.values())
    }
    assert products.count_gaps(work) == len(with_gaps)


def picture(width: int, height: int, form: str = "PNG", **more: object) -> bytes:
    out = io.BytesIO()
    Image.new("RGB", (width, height), (20, 48, 154)).save(out, form, **more)
    return out.getvalue()


def test_a_picture_is_turned_re_encoded_and_kept_once(work: Work, tmp_path: Path) -> None:
    files = FilesOnDisk(tmp_path)
    exif = Image.Exif()
    exif[0x0112] = 6
    kept = pictures.upload(work, files, "a.jpg", picture(3000, 1500, "JPEG", exif=exif))
    assert (kept.width, kept.height) == (1200, 2400)
    path = files.path(f"{kept.file}.webp")
    assert path is not None
    with Image.open(path) as image:
        assert image.format == "WEBP"
        assert not image.getexif()
    small = files.path(f"{kept.file}-160.webp")
    assert small is not None
    with Image.open(small) as image:
        assert image.size == (160, 320)
    assert pictures.upload(work, files, "b.jpg", picture(3000, 1500, "JPEG", exif=exif)) == kept


@pytest.mark.parametrize(
    ("content", "code"),
    [
        (b"<svg/>", "file_kind"),
        (b"", "file_kind"),
        (picture(30, 30)[:60], "file_kind"),
        (picture(4, 4, "GIF"), "file_kind"),
        (b"\0" * (pictures.MOST_BYTES + 1), "file_size"),
        (picture(20_000, 2), "pixels"),
        (picture(9_000, 9_000), "pixels"),
    ],
)
def test_what_is_no_picture_for_us_is_refused_with_a_way_to_mend_it(
    work: Work, tmp_path: Path, content: bytes, code: str
) -> None:
    with pytest.raises(Refusal) as caught:
        pictures.upload(work, FilesOnDisk(tmp_path), "x.png", content)
    assert caught.value.code == code
    assert caught.value.help


def test_the_proof_names_what_it_does_not_show(work: Work) -> None:
    fen = opened(work, "Fen Etching 300")
    missing = {row.key: row.step.name for row in explaining.missing(work, fen.product.id, "product_page")}
    assert missing["ss_sizing"] == "value"
    assert missing["ss_pressure"] == "value"
    assert missing["ss_maker_since"] == "shown"
    steps = explaining.explain_field(work, About(fen.product.id), "ss_hair", "product_page").steps
    applies = next(step for step in steps if step.ok is False)
    assert "the set Brush basics would bring it" in applies.text
    assert "Brushes has it" in applies.text


def test_exact_codes_come_first_and_stand_once(work: Work) -> None:
    fill = lambda words, **values: products.fill(work, only(work, words), None, values)  # noqa: E731
    fill("Wader Field Book", sku="A-1")
    fill("Estuary Easel", sku="A-10", gtin="4006381333931")
    fill("Barley Kraft Roll", title="About A-1 and more")
    found = [row.product.sku for row in products.search(work, products.Filters(words="a-1"), None).rows]
    assert found[0] == "A-1"
    assert sorted(found) == sorted(set(found))
    assert len(found) == 4
    first = products.search(work, products.Filters(words="a-1"), None, 1)
    second = products.search(work, products.Filters(words="a-1"), first.cursor, 9)
    assert [row.product.sku for row in (*first.rows, *second.rows)] == found
    by_gtin = products.search(work, products.Filters(words="4006381333931"), None).rows
    assert [row.product.sku for row in by_gtin] == ["A-10"]
    assert products.find(work, "A-1", 2)[0].sku == "A-1"
    paint = products.search(work, products.Filters(words="A-1", type="paint"), None).rows
    assert [row.product.sku for row in paint] == ["SAW-PEA-15"], "other filters hold of exact ones too"


def only(work: Work, words: str) -> int:
    return products.search(work, products.Filters(words=words), None).rows[0].product.id


def test_values_that_break_a_limit_are_looked_for_in_parts(work: Work, monkeypatch: pytest.MonkeyPatch) -> None:
    narrower = definitions.changed_thing(work, "field", "ss_paper_weight", {"limits": {"max": "250"}})
    whole = definitions.consequences(work, "field", "ss_paper_weight", narrower).effects
    assert whole is not None
    assert whole.next is None
    monkeypatch.setattr(value_effects, "SLICE", 5)
    part = definitions.consequences(work, "field", "ss_paper_weight", narrower).effects
    values = wrong = 0
    while part is not None:
        values, wrong = values + part.values, wrong + part.wrong
        after = part.next
        part = definitions.effects_after(work, "field", "ss_paper_weight", narrower, after) if after else None
    assert (values, wrong) == (whole.values, whole.wrong)

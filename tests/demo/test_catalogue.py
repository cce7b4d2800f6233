"""Saltmarsh Studio Supply: large enough, sound, drawn, and with its gaps left in; and catalogues seeded out of it."""

from __future__ import annotations

import random

import pytest
from sqlalchemy import Engine, select
from sqlalchemy.orm import Session

from young_fabric.core.base.hashes import content_hash
from young_fabric.core.kinds import KINDS, Kind
from young_fabric.core.kinds.file_types import file_type_of
from young_fabric.core.nouns.fields.fields import Field
from young_fabric.core.nouns.types.product_types import ancestry
from young_fabric.core.subjects.registry import PRODUCT
from young_fabric.core.subjects.values import FieldRules
from young_fabric.demo import seed as seeding
from young_fabric.demo.catalogue import definitions, goods
from young_fabric.demo.load import draw, load, own
from young_fabric.demo.pictures import drawn
from young_fabric.demo.seed import seed
from young_fabric.demo.sheets import sheet
from young_fabric.service.acting.actors import Work
from young_fabric.service.checking import checks
from young_fabric.service.planning import plans
from young_fabric.service.products import products as use
from young_fabric.service.releasing import release
from young_fabric.service.values import recount
from young_fabric.store.base import make_sessions
from young_fabric.store.repos import product_groups, products
from young_fabric.store.tables import ProductRow


def test_it_is_as_large_as_a_shop_to_learn_on() -> None:
    written = definitions()
    assert len(written["types"]) >= 6
    assert any("parent" in row for row in written["types"])
    assert len(written["sets"]) >= 8
    assert len(written["fields"]) >= 40
    assert len(goods()) >= 60
    assert len({product.sku for product in goods()}) == len(goods())
    used = {row["kind"] for row in written["fields"]}
    assert {code for code, kind in KINDS.items() if kind.own_fields} - used <= {
        "gtin",
        "decimal",
        "product",
        "collection",
    }


def test_keys_carry_the_prefix_and_built_in_ones_do_not() -> None:
    assert own("hair") == "ss_hair"
    assert own("title") == "title"


def test_every_sort_of_goods_can_be_drawn_alike_each_time() -> None:
    for sort, colour in sorted({product.draw for product in goods()}, key=str)[:6]:
        image = drawn(sort, colour, "x")
        assert image.tobytes() == drawn(sort, colour, "x").tobytes()
        assert min(image.size) >= 600
        assert len(image.convert("RGB").getcolors(image.width * image.height) or []) > 50, "no flat card"


def test_a_product_without_a_drawing_has_no_picture() -> None:
    bare = next(iter(goods())).__class__("canvas", "T", "T-1", "1", ("", ""))
    assert draw(bare) == []


def test_what_is_left_wrong_is_found_by_the_checks(work: Work) -> None:
    found = checks.checks(work)
    assert {check.code for check in found if check.level == "wrong"} == {"required", "wrong"}
    assert {check.code for check in found if check.level == "look"} == {"unseen", "unused", "never_filled"}
    assert use.count_gaps(work) == 6


def test_loading_again_keeps_what_is_there(work: Work, engine: Engine, tmp_path: object) -> None:
    words = load(make_sessions(engine), tmp_path)  # type: ignore[arg-type]
    assert "what was changed is kept" in words
    assert "rosa@saltmarsh.example" in words


@pytest.fixture
def seeded(own_engine: Engine) -> Engine:
    seed(own_engine, 40, 7)
    return own_engine


def rows(engine: Engine) -> list[tuple[object, ...]]:
    query = select(ProductRow.type_key, ProductRow.title, ProductRow.sku, ProductRow.fields, ProductRow.gaps)
    with make_sessions(engine)() as session:
        return [tuple(row) for row in session.execute(query.where(ProductRow.sku.like("S7-%")).order_by(ProductRow.id))]


def test_the_same_seed_gives_the_same_catalogue(seeded: Engine) -> None:
    first = rows(seeded)
    assert len(first) == 40
    with make_sessions(seeded).begin() as session:
        session.query(ProductRow).filter(ProductRow.sku.like("S7-%")).delete()
    seed(seeded, 40, 7)
    again = rows(seeded)
    assert [row[3] for row in again] == [row[3] for row in first], "values are alike, numbers go on"


def test_seeded_products_are_as_if_typed(seeded: Engine) -> None:
    with make_sessions(seeded)() as session:
        check_seeded(session)


def check_seeded(session: Session) -> None:
    assessor = plans.draft_of(session).assessor
    every = [product for batch in product_groups.stream(session, None) for product in batch]
    found = [product for product in every if product.sku.startswith("S7-")]
    assert len(found) == 40
    for product in found:
        assert product.values.keys() <= assessor.fillable_of(product).keys()
        for key, value in product.values.items():
            assert assessor.rules(key).judge(value) is None, (key, value)
        assert ancestry(product.type, assessor.defs.types)
    ids = [product.id for product in found]
    digests = {product.id: content_hash(PRODUCT.state_of(product)) for product in found}
    assert products.hashes(session, ids) == digests
    assert recount.recount(session) == []


def test_a_seeded_catalogue_is_released(seeded: Engine, work: Work) -> None:
    with make_sessions(seeded)() as session:
        done = release.release(Work(session, work.actor, work.now), "seeded")
        assert done.counts["product_page"] >= 40
        session.rollback()


def test_a_sheet_is_a_file_that_is_kept_and_the_same_each_time() -> None:
    made = sheet("Brushes (soft)", ["Rinse \\ dry", "Größe 6"])
    found = file_type_of("Sheet.pdf", made)
    assert found is not None
    assert found.code == "pdf"
    assert rb"(Brushes \(soft\)) Tj" in made
    place = int(made.rsplit(b"startxref\n", 1)[1].split(b"\n")[0])
    assert made[place:].startswith(b"xref\n0 6\n")
    assert made == sheet("Brushes (soft)", ["Rinse \\ dry", "Größe 6"])


@pytest.mark.parametrize("kind", [kind for kind in KINDS.values() if kind.own_fields], ids=lambda kind: kind.code)
def test_a_kind_without_a_maker_is_seeded_with_its_example(work: Work, kind: Kind) -> None:
    defs = plans.draft(work.session)
    options = {option.code: {"list": "wood", "unit": "cm"}.get(option.code) for option in kind.options}
    field = Field(
        "x", "X", "X", kind.code, False, {code: value for code, value in options.items() if value is not None}
    )
    pictures = [{"file": "a" * 64, "alt": "", "width": 1, "height": 1}]
    value = seeding._value(field, defs, random.Random(3), pictures)
    rules = FieldRules(field, defs.spec(field))
    if value is None:
        read = rules.read(field.rules.example_for(rules.spec))
        assert read.value is None or field.targets or kind.chosen(field.options), (
            "it has no example that stands by itself"
        )
    else:
        assert all(
            map(rules.kind.well_formed, value if isinstance(value, list) and kind.code != "many_of" else [value])
        )

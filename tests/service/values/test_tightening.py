"""What types say of fields beyond their definition, and words shared by many products."""

from __future__ import annotations

from typing import Any

import pytest

from young_fabric.core.base.errors import Refusal
from young_fabric.service import history
from young_fabric.service.acting.actors import Work
from young_fabric.service.defining import definitions, new_fields, shared_copies
from young_fabric.service.defining.new_fields import Taker
from young_fabric.service.pages import explaining, proofs
from young_fabric.service.pages.explaining import About
from young_fabric.service.products import editor, products
from young_fabric.service.releasing import pending, release
from young_fabric.service.values import recount
from young_fabric.service.writing import writes


def say(work: Work, of: str, key: str, **by: Any) -> None:
    own = dict(writes.need_current(work, "product_type", of).thing.own)
    given = {
        name: {"limits": dict(known.limits), "default": known.default, "help": known.help}
        for name, known in own.items()
    }
    put(work, "product_type", of, own={**given, key: by})


def put(work: Work, noun: str, key: str, **given: Any) -> None:
    definitions.change(work, noun, key, writes.need_current(work, noun, key).version, given)


def of_type(work: Work, key: str) -> list[Any]:
    return [row.product for row in products.search(work, products.Filters(type=key), None).rows]


def fields_of(work: Work, number: int) -> dict[str, editor.EditorField]:
    opened = editor.editor_of(work, products.get(work, number))
    return {at.field.key: at for section in opened.sections for at in section.fields}


def shown(work: Work, number: int, key: str) -> Any:
    entries = proofs.documents(work, number)[1]["product_page"].entries()
    return next((entry.shown for entry in entries if entry.field == key), None)


def test_a_type_makes_limits_narrower_and_marks_what_they_make_wrong(work: Work) -> None:
    papers = of_type(work, "watercolour_paper")
    weight = writes.need_current(work, "field", "ss_paper_weight").thing
    put(work, "field", "ss_paper_weight", limits={**weight.limits, "max": "850"})
    most = "600"
    before = definitions.changed_thing(
        work, "product_type", "watercolour_paper", {"own": {"ss_paper_weight": {"limits": {"max": most}}}}
    )
    told = definitions.consequences(work, "product_type", "watercolour_paper", before).effects
    wrong = [product for product in papers if int(product.values["ss_paper_weight"]["amount"]) > 600]
    assert wrong
    assert told is not None
    assert (told.wrong, told.values) == (len(wrong), len(papers))
    assert {effect.key for effect in told.examples} == {str(product.id) for product in wrong}
    say(work, "watercolour_paper", "ss_paper_weight", limits={"max": most})
    assert not recount.recount(work.session)
    assert fields_of(work, wrong[0].id)["ss_paper_weight"].value.state == "wrong"
    assert shown(work, wrong[0].id, "ss_paper_weight") is None
    others = [product for product in of_type(work, "drawing_paper") if "ss_paper_weight" in product.values]
    assert all(fields_of(work, product.id)["ss_paper_weight"].value.state == "good" for product in others)
    history.undo_last(work)
    assert fields_of(work, wrong[0].id)["ss_paper_weight"].value.state == "good"
    assert not recount.recount(work.session)


def test_those_below_have_what_those_above_say_and_the_narrower_limit_holds(work: Work) -> None:
    say(work, "paper", "ss_paper_weight", limits={"max": "500"}, help="As printed on the wrapper")
    say(work, "watercolour_paper", "ss_paper_weight", limits={"max": "600", "min": "100"})
    at = fields_of(work, of_type(work, "watercolour_paper")[0].id)["ss_paper_weight"]
    assert (at.field.limits["max"], at.field.limits["min"]) == ("500", "100")
    assert at.field.help == "As printed on the wrapper"
    assert fields_of(work, of_type(work, "drawing_paper")[0].id)["ss_paper_weight"].field.limits.get("min") != "100"


@pytest.mark.parametrize(
    ("by", "code", "where"),
    [
        ({"limits": {"max": "851"}}, "looser", ("own", "ss_paper_weight", "limits", "max")),
        ({"limits": {"pattern": "x"}}, "limit", ("own", "ss_paper_weight", "limits", "pattern")),
        ({"default": "9000 g/m²"}, "above", ("own", "ss_paper_weight", "default")),
        ({"default": "heavy"}, "number", ("own", "ss_paper_weight", "default")),
        ({"help": "x" * 401}, "long", ("own", "ss_paper_weight", "help")),
    ],
)
def test_what_a_type_can_not_say_is_refused_at_its_place(
    work: Work, by: Any, code: str, where: tuple[str, ...]
) -> None:
    weight = writes.need_current(work, "field", "ss_paper_weight").thing
    put(work, "field", "ss_paper_weight", limits={**weight.limits, "max": "850"})
    with pytest.raises(Refusal) as refused:
        say(work, "paper", "ss_paper_weight", **by)
    assert (refused.value.code, refused.value.where) == (code, where)


def test_limits_at_those_of_the_field_are_allowed(work: Work) -> None:
    weight = writes.need_current(work, "field", "ss_paper_weight").thing
    put(work, "field", "ss_paper_weight", limits={**weight.limits, "max": "850"})
    say(work, "paper", "ss_paper_weight", limits={"max": "850"})
    say(work, "paper", "ss_paper_weight", help="x" * 400)


def test_a_default_of_a_type_shows_where_a_product_has_no_value(work: Work) -> None:
    sketchbook = of_type(work, "sketchbooks")[0]
    products.fill(work, sketchbook.id, products.get(work, sketchbook.id).version, {"ss_made_in": None})
    say(work, "sketchbooks", "ss_made_in", default="Port Callan")
    assert shown(work, sketchbook.id, "ss_made_in").plain == "Port Callan"
    at = fields_of(work, sketchbook.id)["ss_made_in"]
    assert (at.value.state, at.standing.shown, at.standing.source) == (  # type: ignore[union-attr]
        "empty",
        "Port Callan",
        "the product type Sketchbooks",
    )
    steps = explaining.explain_field(work, About(sketchbook.id), "ss_made_in", "product_page").steps
    assert "by the product type Sketchbooks" in next(step.text for step in steps if step.name == "value")
    told = definitions.consequences(
        work, "product_type", "sketchbooks", definitions.changed_thing(work, "product_type", "sketchbooks", {"own": {}})
    )
    lacking = [
        product
        for product in of_type(work, "sketchbooks")
        if "ss_made_in" not in products.get(work, product.id).product.values
    ]
    assert told.surfaces["product_page"] == len(lacking)


def test_a_field_that_goes_takes_with_it_what_types_say_of_it(work: Work) -> None:
    made = new_fields.make(work, "Nap", {"kind": "text"}, None, Taker("product_type", "canvas"))
    say(work, "canvas", made, help="Feel it")
    put(work, "product_type", "canvas", fields=[])
    definitions.remove(work, "field", made, writes.need_current(work, "field", made).version)
    assert made not in writes.need_current(work, "product_type", "canvas").thing.own


@pytest.fixture
def care(work: Work) -> str:
    """A shared copy that brushes show."""
    given = {"title": "Care", "icon": "water", "words": "Rinse in cold water.\n\nDry flat."}
    copy = definitions.create(work, "shared_copy", "Care of brushes", given).thing
    assert copy.words == "<p>Rinse in cold water.</p><p>Dry flat.</p>"
    given = {"kind": "shared_words", "options": {"copy": copy.key}}
    return new_fields.make(work, "Care", given, None, Taker("product_type", "brushes"))


COPY = "care_of_brushes"


def test_shared_words_show_on_every_product_that_has_the_field(work: Work, care: str) -> None:
    brushes = of_type(work, "brushes")
    node = shown(work, brushes[0].id, care)
    assert (node.title, node.icon, node.text) == ("Care", "water", "Rinse in cold water.\nDry flat.")
    put(work, "shared_copy", COPY, words="Rinse in cool water.")
    assert shown(work, brushes[1].id, care).text == "Rinse in cool water."
    with pytest.raises(Refusal) as refused:
        definitions.remove(work, "shared_copy", COPY, 2)
    assert refused.value.code == "in_use"


def test_products_and_collections_keep_their_own_words(work: Work, care: str) -> None:
    first, second, third = of_type(work, "brushes")[:3]
    products.fill(work, first.id, products.get(work, first.id).version, {care: "Rinse in warm water.\n\nDry flat."})
    collection = definitions.create(work, "collection", "Soft ones", {"picked": [first.id, second.id]}).thing.key
    put(work, "shared_copy", COPY, own={collection: "Never rinse."})
    assert shown(work, first.id, care).text == "Rinse in warm water.\nDry flat."
    assert shown(work, second.id, care).text == "Never rinse."
    assert shown(work, third.id, care).text == "Rinse in cold water.\nDry flat."
    at = fields_of(work, first.id)[care]
    assert at.standing is not None
    assert (at.standing.source, at.standing.shown) == ("the collection Soft ones", "Never rinse.")
    at = fields_of(work, third.id)[care]
    assert at.standing is not None
    assert at.standing.source == "the shared copy Care of brushes"
    assert (
        "by the shared copy Care of brushes"
        in explaining.explain_field(work, About(third.id), care, "product_page").steps[-3].text
    )
    places = {(place.noun, place.name): place.differs for place in shared_copies.own_words(work, COPY)}
    assert set(places) == {("collection", "Soft ones"), ("product", first.title)}
    assert [(piece.how, piece.text) for piece in places["product", first.title]] == [
        ("same", "Rinse in "),
        ("gone", "cold "),
        ("added", "warm "),
        ("same", "water.\nDry flat."),
    ]
    assert shared_copies.overview(work, COPY)[0].own_products == 1
    definitions.remove(work, "collection", collection, 1)
    assert shown(work, second.id, care).text == "Rinse in cold water.\nDry flat."


def test_a_change_of_shared_words_touches_only_those_that_follow_them(work: Work, care: str) -> None:
    brushes = of_type(work, "brushes")
    products.fill(work, brushes[0].id, products.get(work, brushes[0].id).version, {care: "Its own words."})
    collection = definitions.create(work, "collection", "Soft ones", {"picked": [brushes[1].id]}).thing.key
    put(work, "shared_copy", COPY, own={collection: "Never rinse."})
    release.release(work, "first")
    thing = definitions.changed_thing(work, "shared_copy", COPY, {"words": "Other words."})
    told = definitions.consequences(work, "shared_copy", COPY, thing).surfaces["product_page"]
    put(work, "shared_copy", COPY, words="Other words.")
    assert pending.pending(work).surfaces["product_page"] == told == len(brushes) - 2
    assert release.release(work, "second").counts["product_page"] == told


@pytest.mark.parametrize(
    ("given", "code", "where"),
    [
        ({"icon": "anchor"}, "icon", ("icon",)),
        ({"title": "x" * 81}, "long", ("title",)),
        ({"own": {"nothing": "Words"}}, "unknown_collection", ("own", "nothing")),
        ({"own": {"outdoors": " "}}, "required", ("own", "outdoors")),
        ({"words": "x" * 100_000}, "long", ("words",)),
    ],
)
def test_a_shared_copy_that_can_not_stand_is_refused_at_its_place(
    work: Work, given: Any, code: str, where: Any
) -> None:
    with pytest.raises(Refusal) as refused:
        definitions.create(work, "shared_copy", "Care", given)
    assert (refused.value.code, refused.value.where[: len(where)]) == (code, where)


def test_fields_are_recorded_of_variants(work: Work) -> None:
    made = definitions.create(work, "field", "Batch", {"kind": "text", "subject": "variant"}).thing
    assert made.subject == "variant"
    with pytest.raises(Refusal):
        put(work, "product_type", "paint", fields=[made.key])

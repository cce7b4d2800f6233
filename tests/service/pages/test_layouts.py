"""Layouts in use: chosen by the cascade, edited by several, followed by others, and what follows from a change."""

from __future__ import annotations

from collections.abc import Callable
from pathlib import Path

import pytest
from PIL import Image

from young_fabric.core.base.errors import Refusal
from young_fabric.core.display.cascade import Scope
from young_fabric.core.nouns.base import state_of
from young_fabric.core.pages.document import RenderDoc
from young_fabric.core.pages.plans import Plans
from young_fabric.service import history
from young_fabric.service.acting.actors import Work
from young_fabric.service.acting.findings import Check
from young_fabric.service.checking import checks
from young_fabric.service.defining import definitions
from young_fabric.service.files import pictures
from young_fabric.service.pages import alike_layouts, layouts, proofs, typed_words, weave
from young_fabric.service.planning import plans
from young_fabric.service.products import products
from young_fabric.service.releasing import pending, release
from young_fabric.service.writing import writes
from young_fabric.store.files import FilesOnDisk
from young_fabric.store.repos import definitions as stored

PAGE = "product_page"
NOTE = {"kind": "words", "id": "note", "words": "Made by hand.", "heading": "Note"}


def product_of(work: Work, words: str) -> int:
    return products.search(work, products.Filters(words=words), None).rows[0].product.id


def page(work: Work, words: str) -> RenderDoc:
    return proofs.documents(work, product_of(work, words))[1][PAGE]


def blocks(work: Work, words: str) -> list[str]:
    return [block.id for block in page(work, words).blocks()]


def made(work: Work, key: str, base: str = "page") -> str:
    definitions.create(work, "layout", key.title(), {"key": key, "base": base})
    return key


def choose(work: Work, scope: Scope, key: str | None) -> None:
    found = stored.get(work.session, "display_setting", f"{scope}/*/{PAGE}")
    definitions.display(work, scope, "*", PAGE, {"layout": key}, found.version if found else None)


def in_force(work: Work, words: str) -> str:
    product = proofs.need_product(work, product_of(work, words))
    return proofs.plan_for(work, product, PAGE).layout.key


def test_the_nearest_scope_chooses_the_layout_and_the_weave_says_which(work: Work) -> None:
    for key in ("of_shop", "of_paint", "of_water", "of_box", "of_one"):
        made(work, key)
    paint = "Barley Ochre"
    assert in_force(work, paint) == "page"
    choose(work, Scope("shop"), "of_shop")
    assert in_force(work, paint) == "of_shop"
    choose(work, Scope("type", "paint"), "of_paint")
    choose(work, Scope("type", "watercolour"), "of_water")
    assert in_force(work, paint) == "of_water"
    choose(work, Scope("collection", "first_box"), "of_box")
    product = product_of(work, paint)
    boxed = "first_box" in proofs.need_product(work, product).collections
    assert in_force(work, paint) == ("of_box" if boxed else "of_water")
    choose(work, Scope("product", str(product)), "of_one")
    assert in_force(work, paint) == "of_one"
    told = {chosen.surface: chosen for chosen in weave.weave(work, Scope("type", "gouache")).layouts}
    assert (told[PAGE].key, told[PAGE].origin, told[PAGE].own) == ("of_paint", "type:paint", "")
    choose(work, Scope("product", str(product)), None)
    choose(work, Scope("collection", "first_box"), None)
    choose(work, Scope("type", "watercolour"), None)
    assert in_force(work, paint) == "of_paint"


def test_a_layout_of_another_surface_can_not_be_chosen_nor_one_that_is_not_there(work: Work) -> None:
    made(work, "mine")
    with pytest.raises(Refusal) as caught:
        definitions.display(work, Scope("shop"), "*", "listing_card", {"layout": "mine"}, None)
    assert caught.value.code == "other_surface"
    with pytest.raises(Refusal) as caught:
        definitions.display(work, Scope("shop"), "*", PAGE, {"layout": "gone"}, None)
    assert caught.value.code == "not_found"
    with pytest.raises(Refusal) as caught:
        definitions.display(work, Scope("shop"), "ss_wood", PAGE, {"layout": "mine"}, None)
    assert caught.value.code == "unknown_property"


def test_a_layout_in_use_stays_until_nobody_has_chosen_it(work: Work) -> None:
    made(work, "mine")
    child = made(work, "child", "mine")
    product = Scope("product", str(product_of(work, "Barley Ochre")))
    choose(work, product, "mine")
    with pytest.raises(Refusal, match="used by"):
        definitions.remove(work, "layout", "mine", writes.need_current(work, "layout", "mine").version)
    definitions.remove(work, "layout", child, writes.need_current(work, "layout", child).version)
    with pytest.raises(Refusal, match="of 1 product"):
        definitions.remove(work, "layout", "mine", writes.need_current(work, "layout", "mine").version)
    choose(work, product, None)
    definitions.remove(work, "layout", "mine", writes.need_current(work, "layout", "mine").version)


def test_edits_go_on_from_the_layout_as_it_is_and_are_undone(work: Work) -> None:
    made(work, "mine")
    choose(work, Scope("type", "watercolour"), "mine")
    layouts.edit(work, "mine", [{"op": "add", "block": NOTE, "region": "main", "after": "top"}])
    layouts.edit(work, "mine", [{"op": "set", "id": "note", "props": {"words": "Made in {ss_made_in}."}}])
    assert "note" in blocks(work, "Barley Ochre")
    assert "note" not in blocks(work, "Groyne Studio")
    view = layouts.layout_view(work, "mine")
    note = next(placed for _, region in view.regions for placed in region if placed.block["id"] == "note")
    assert (note.layout, note.steps, note.pages) == ("mine", ("added",), 14)
    assert (view.shown, view.uses[0].name) == (14, "Watercolour")
    with pytest.raises(Refusal) as caught:
        layouts.edit(work, "mine", [{"op": "add", "block": {"kind": "price"}, "region": "main", "after": None}])
    assert caught.value.code == "stands_once"
    history.undo_last(work)
    assert layouts.layout_view(work, "mine").regions[0][1][1].block["words"] == "Made by hand."
    history.undo_last(work)
    assert "note" not in blocks(work, "Barley Ochre")


def test_what_follows_from_a_change_of_a_base_is_known_beforehand(work: Work) -> None:
    made(work, "own")
    children = [made(work, f"child{number}", "own") for number in range(3)]
    layouts.edit(work, "own", [{"op": "add", "block": NOTE, "region": "main", "after": "top"}])
    for key, scope in zip(children, ("watercolour", "gouache", "brushes"), strict=True):
        choose(work, Scope("type", scope), key)
    layouts.edit(work, "child0", [{"op": "set", "id": "note", "props": {"heading": "Of ours"}}])
    gone = [{"op": "remove", "id": "note"}]
    found = layouts.preview(work, "own", gone)
    counts = {code: count for code, count in found.consequences.surfaces.items() if count}
    assert counts == {PAGE: 14 + 8 + 8}
    assert {effect.key: len(effect.lost) for effect in found.builders} == {"child0": 1, "child1": 0, "child2": 0}
    tried = proofs.documents(work, product_of(work, "Barley Ochre"), proofs.Trying(None, "own", gone))[1][PAGE]
    assert "note" not in [block.id for block in tried.blocks()]
    assert "note" in blocks(work, "Barley Ochre"), "nothing is written by looking"
    before: Plans = plans.draft_plans(work.session)
    layouts.edit(work, "own", gone)
    assert before.defs is not plans.draft(work.session)
    assert all("note" not in blocks(work, words) for words in ("Barley Ochre", "Ebb Gouache Brick"))
    lost = layouts.layout_view(work, "child0").lost
    assert [step.key for step in lost] == ["set:note"]
    assert "it is there no more" in lost[0].words
    history.undo_last(work)
    assert layouts.layout_view(work, "child0").lost == ()


def test_a_release_renders_what_a_layout_changes_and_nothing_else(work: Work) -> None:
    release.release(work, "before")
    made(work, "mine")
    assert sum(release.release(work, "nobody has it").counts.values()) == 0
    choose(work, Scope("type", "watercolour"), "mine")
    assert sum(release.release(work, "as the base").counts.values()) == 0, "it renders as its base does"
    layouts.edit(work, "mine", [{"op": "add", "block": NOTE, "region": "main", "after": "top"}])
    names = {thing.noun for thing in pending.pending(work).things}
    assert names == {"layout"}
    done = release.release(work, "a note")
    assert {code: count for code, count in done.counts.items() if count} == {PAGE: 14}


def test_words_of_a_layout_hold_the_fields_they_name(work: Work) -> None:
    made(work, "mine")
    block = {**NOTE, "words": "Of [{ss_wood}]."}
    layouts.edit(work, "mine", [{"op": "add", "block": block, "region": "main", "after": None}])
    field = writes.need_current(work, "field", "ss_wood")
    with pytest.raises(Refusal, match="used by"):
        definitions.remove(work, "field", "ss_wood", field.version)


def test_examples_to_prove_with_have_the_field_lack_it_or_have_much_of_it(work: Work) -> None:
    found = {example.how: example for example in proofs.examples_of(work, "ss_sizing")}
    assert found.keys() == {"has", "lacks", "longest"}
    assert "ss_sizing" in proofs.need_product(work, found["has"].product).values
    assert "ss_sizing" not in proofs.need_product(work, found["lacks"].product).values
    with pytest.raises(Refusal):
        proofs.examples_of(work, "ss_gone")


def found_by(work: Work, code: str) -> list[Check]:
    return [check for check in checks.checks(work) if check.code == code and check.level != "good"]


def test_checks_find_what_has_no_place_or_two_or_one_label(work: Work) -> None:
    assert found_by(work, "no_slot") == []
    made(work, "mine")
    choose(work, Scope("type", "watercolour"), "mine")
    layouts.edit(work, "mine", [{"op": "remove", "id": "details"}])
    lacking = found_by(work, "no_slot")
    assert [check.link for check in lacking] == [("layout", "mine")]
    assert "which has no place for it" in lacking[0].text
    slots = [
        {"op": "add", "region": "main", "after": None, "block": {"kind": "field", "takes": {"fields": ["ss_opacity"]}}}
        for _ in range(2)
    ]
    layouts.edit(work, "mine", slots)
    assert [check.text.split(":")[0] for check in found_by(work, "two_slots")] == ["Opacity"]
    definitions.display(work, Scope("type", "watercolour"), "ss_staining", PAGE, {"label_text": "Opacity"}, None)
    layouts.edit(work, "mine", [{"op": "follow", "id": "details"}])
    twice = found_by(work, "labels_twice")
    assert [check.text.split(":")[0] for check in twice] == ["Opacity, Staining"]


def test_checks_find_words_nobody_has_panels_nobody_fills_and_steps_that_are_lost(work: Work) -> None:
    made(work, "own")
    made(work, "mine", "own")
    choose(work, Scope("type", "watercolour"), "mine")
    definitions.create(work, "field", "Lustre", {"key": "ss_lustre"})
    version = writes.need_current(work, "product_type", "watercolour").version
    fields = writes.need_current(work, "product_type", "watercolour").thing.fields
    definitions.change(work, "product_type", "watercolour", version, {"fields": [*fields, "ss_lustre"]})
    assert [check.link for check in found_by(work, "never_filled") if check.link == ("lacking", "ss_lustre")]
    layouts.edit(work, "own", [{"op": "add", "block": NOTE, "region": "main", "after": None}])
    panel = {"kind": "fields", "id": "sheen", "heading": "Sheen", "takes": {"fields": ["ss_lustre"]}}
    layouts.edit(
        work,
        "mine",
        [
            {"op": "set", "id": "note", "props": {"words": "Of {ss_wood}."}},
            {"op": "wrap", "id": "details", "kind": "panels"},
            {"op": "add", "block": panel, "region": "panels_1", "after": "details"},
            {"op": "set", "id": "pictures", "props": {"as": "one"}},
        ],
    )
    assert [check.text for check in found_by(work, "unsaid")] == [
        "{ss_wood} in the words of Mine: no product with this layout has it"
    ]
    assert ["Sheen" in check.text for check in found_by(work, "empty_panels")] == [True]
    assert [check.link for check in found_by(work, "alone")] == [("layout", "mine")]
    assert found_by(work, "lost_steps") == []
    layouts.edit(work, "own", [{"op": "remove", "id": "note"}])
    assert [check.text for check in found_by(work, "lost_steps")] == ["Mine: 1 step no longer fits its base"]


def said(work: Work, words: str) -> list[str]:
    """What a page says, in order, without how it is marked up."""
    out = []
    for block in page(work, words).blocks():
        out += [block.heading, *[entry.text for entry in block.entries]]
        out += [block.content.plain] if block.content is not None else []
    return [" ".join(text.split()) for text in out if text]


@pytest.mark.parametrize("make", [typed_words.make_field, typed_words.make_copy])
def test_words_of_a_layout_are_made_a_field_or_shared_copy_and_pages_say_the_same(
    work: Work, make: Callable[[Work, str, str], str]
) -> None:
    release.release(work, "before")
    made(work, "own")
    made(work, "mine", "own")
    block = {**NOTE, "words": "Made by hand.\n\nBy two of us.", "background": "pale"}
    layouts.edit(work, "own", [{"op": "add", "block": block, "region": "main", "after": "top"}])
    choose(work, Scope("type", "watercolour"), "mine")
    release.release(work, "with words")
    before = said(work, "Barley Ochre")
    assert make(work, "mine", "note") == "own", "where the words were typed they are made something else"
    assert said(work, "Barley Ochre") == before
    assert "note" not in blocks(work, "Barley Ochre")
    instead = next(block for block in page(work, "Barley Ochre").blocks() if block.heading == "Note")
    assert instead.look["background"] == "pale"
    done = release.release(work, "the same words")
    assert {code for code, count in done.counts.items() if count} == {PAGE}, "no other surface shows them"
    history.undo_last(work)
    assert "note" in blocks(work, "Barley Ochre"), "undone in one stroke"
    assert said(work, "Barley Ochre") == before


def test_a_product_says_otherwise_once_words_are_a_field(work: Work) -> None:
    made(work, "mine")
    choose(work, Scope("type", "watercolour"), "mine")
    layouts.edit(work, "mine", [{"op": "add", "block": NOTE, "region": "main", "after": "top"}])
    typed_words.make_field(work, "mine", "note")
    key = "ss_note"
    paint = products.search(work, products.Filters(words="Barley Ochre"), None).rows[0]
    products.fill(work, paint.product.id, paint.version, {key: "This one by machine."})
    assert "This one by machine." in said(work, "Barley Ochre")
    assert "Made by hand." in said(work, "Fen Green")


def test_words_with_values_in_them_and_other_blocks_are_made_nothing_of(work: Work) -> None:
    made(work, "mine")
    block = {**NOTE, "words": "Of {ss_wood}."}
    layouts.edit(work, "mine", [{"op": "add", "block": block, "region": "main", "after": None}])
    for block_id, code in (("note", "tokens"), ("price", "edit"), ("ghost", "block_gone")):
        with pytest.raises(Refusal) as caught:
            typed_words.make_copy(work, "mine", block_id)
        assert caught.value.code == code


def words_of(work: Work) -> dict[tuple[str, str], list[str]]:
    """All that is said of every product on every surface, in order."""
    found = {}
    for row in products.search(work, products.Filters(), None).rows:
        _, documents = proofs.documents(work, row.product.id)
        for surface, doc in documents.items():
            said = [
                "\n".join(
                    filter(None, [block.content and block.content.plain, *[entry.text for entry in block.entries]])
                )
                for block in doc.blocks()
            ]
            found[row.product.title, surface] = list(filter(None, said))
    return found


def lay_out_alike(work: Work) -> None:
    for key, words in (
        ("first", "Ground twice."),
        ("second", "Pressed once."),
        ("third", "Bound by hand."),
        ("last", "Sawn."),
    ):
        made(work, key)
        block = {"kind": "words", "heading": "Our word", "words": words}
        layouts.edit(work, key, [{"op": "add", "block": block, "region": "main", "after": "details"}])
    choose(work, Scope("type", "paint"), "first")
    choose(work, Scope("type", "watercolour"), "second")
    choose(work, Scope("collection", "first_box"), "third")
    choose(work, Scope("product", str(product_of(work, "Estuary Easel"))), "last")


def test_layouts_that_differ_only_in_words_are_made_one_and_a_field(work: Work) -> None:
    lay_out_alike(work)
    before = words_of(work)
    said = {said for words in before.values() for said in words}
    assert {"Ground twice.", "Pressed once.", "Bound by hand.", "Sawn."} <= said
    found = alike_layouts.alike_to(work, "second")
    assert found is not None
    assert (set(found.layouts), len(found.differing)) == ({"first", "second", "third", "last"}, 1)
    told = [check.text for check in checks.checks(work) if check.code == "alike_layouts"]
    assert told == ["First, Last, Second, Third: the same but for words, they could be one layout and a field"]
    alike_layouts.make_one(work, "second")
    assert words_of(work) == before
    defs = plans.draft(work.session)
    assert {"first", "third", "last"} & defs.layouts.keys() == set()
    assert alike_layouts.alike_to(work, "second") is None
    history.undo_last(work)
    assert words_of(work) == before
    assert {"first", "third", "last"} <= plans.draft(work.session).layouts.keys()


def test_layouts_that_differ_in_more_or_hold_values_or_are_built_on_are_not_alike(work: Work) -> None:
    lay_out_alike(work)
    layouts.edit(work, "first", [{"op": "set", "id": "words", "props": {"background": "pale"}}])
    layouts.edit(work, "third", [{"op": "set", "id": "words", "props": {"words": "Of {title}."}}])
    made(work, "child", "last")
    layouts.edit(work, "child", [{"op": "remove", "id": "numbers"}])
    assert alike_layouts.alike_to(work, "second") is None
    with pytest.raises(Refusal) as refused:
        alike_layouts.make_one(work, "second")
    assert refused.value.code == "not_found"
    with pytest.raises(Refusal):
        alike_layouts.alike_to(work, "nowhere")


def test_swatches_that_can_hardly_be_seen_on_their_ground_are_found(work: Work) -> None:
    definitions.display(work, Scope("shop"), "ss_wood", PAGE, {"colour_as": "swatch"}, None)
    listed = stored.get(work.session, "value_list", plans.draft(work.session).fields["ss_wood"].options["list"])
    assert listed is not None
    pale = [{**value, "swatch": {"colours": ["#fefefe"]}} for value in state_of(listed.thing)["values"]]
    definitions.change(work, "value_list", listed.thing.key, listed.version, {"values": pale})
    found = [check for check in checks.checks(work) if check.code == "contrast"]
    assert found
    assert "of Wood: swatches without names, hardly seen in" in found[0].text
    made(work, "dark", "easels")
    layouts.edit(work, "dark", [{"op": "set", "id": "details", "props": {"background": "deep"}}])
    choose(work, Scope("type", "easels"), "dark")
    assert [check for check in checks.checks(work) if check.code == "contrast"] == []


def test_pictures_of_blocks_are_among_those_that_were_uploaded(work: Work, tmp_path: Path) -> None:
    made(work, "pinned")
    kept = pictures.keep(work, FilesOnDisk(tmp_path), "b.png", pictures.encoded(Image.new("RGB", (60, 40))))
    picture = {"file": kept.file, "alt": "A bench", "width": kept.width, "height": kept.height}

    def put(**said: object) -> None:
        block = {"kind": "pins", "picture": {**picture, **said}}
        layouts.edit(work, "pinned", [{"op": "add", "block": block, "region": "main", "after": None}])

    for said, code in (({"file": "0" * 64}, "picture_gone"), ({"width": 61}, "picture")):
        with pytest.raises(Refusal) as refused:
            put(**said)
        assert refused.value.code == code
        assert refused.value.where[-1] == "picture"
    put()
    assert plans.draft(work.session).layouts["pinned"].steps[0].id == "pins"

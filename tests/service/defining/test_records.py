"""Records and what refers to them: chosen, shown by name, held fast, listed on pages of their own, live by a release."""

from __future__ import annotations

from typing import Any

import pytest

from young_fabric.core.base.errors import Refusal
from young_fabric.core.nouns.fields.conditions import condition_words
from young_fabric.core.pages.document import from_json
from young_fabric.core.pages.listed import of_record
from young_fabric.service import history
from young_fabric.service.acting.actors import Work
from young_fabric.service.defining import definitions, fields, holders, new_fields, records
from young_fabric.service.defining.new_fields import Taker
from young_fabric.service.pages import proofs
from young_fabric.service.planning import plans
from young_fabric.service.products import find, products, references
from young_fabric.service.releasing import differing, pending, release
from young_fabric.service.values.value_states import ValueEdit
from young_fabric.service.values.value_writer import put_many
from young_fabric.service.writing import writes
from young_fabric.store.repos import listings, releases


def record(work: Work, name: str, of: str = "guild") -> str:
    return str(definitions.create(work, "record", name, {"type": of}).thing.key)


def change(work: Work, noun: str, key: str, **given: Any) -> None:
    definitions.change(work, noun, key, writes.need_current(work, noun, key).version, given)


def paint(work: Work, place: int = 0) -> Any:
    return products.search(work, products.Filters(type="paint"), None).rows[place].product


def fill(work: Work, number: int, **typed: Any) -> None:
    products.fill(work, number, products.get(work, number).version, typed)


def shown(work: Work, number: int, field: str) -> Any:
    doc = proofs.documents(work, number)[1]["product_page"]
    return next((entry.shown for entry in doc.entries() if entry.field == field), None)


def live(work: Work, number: int, field: str) -> str | None:
    rows = {row.surface: row for row in releases.documents_of(work.session, "product", number)}
    entries = from_json(rows["product_page"].document).entries()
    return next((entry.text for entry in entries if entry.field == field), None)


def text_of(work: Work, number: int, field: str) -> str | None:
    node = shown(work, number, field)
    return None if node is None else str(node.plain)


@pytest.fixture
def guild(work: Work) -> str:
    """A type of records with pages, and a field of paints that chooses of them."""
    definitions.create(work, "record_type", "Guild", {"page": True})
    new_fields.make(work, "Town", {"kind": "text"}, None, Taker("record_type", "guild"))
    given = {"kind": "record", "options": {"record_type": "guild"}}
    return new_fields.make(work, "Guild", given, None, Taker("product_type", "paint"))


@pytest.fixture
def goes_with(work: Work) -> str:
    """A field of paints that names other products, several of them."""
    return new_fields.make(work, "Goes with", {"kind": "product", "many": True}, None, Taker("product_type", "paint"))


def test_a_field_made_into_a_record_type_is_of_records_and_no_type_takes_it(work: Work, guild: str) -> None:
    assert plans.draft(work.session).fields["ss_town"].subject == "record"
    assert plans.draft(work.session).fields[guild].subject == "product"
    with pytest.raises(Refusal) as refused:
        new_fields.make(work, "Size", {"kind": "text", "subject": "record"}, None, Taker("product_type", "paint"))
    assert refused.value.code == "subject"
    with pytest.raises(Refusal) as refused:
        change(work, "record_type", "guild", fields=["ss_town", "ss_series"])
    assert (refused.value.code, refused.value.where) == ("unknown_field", ("fields", 1))


def test_a_record_is_named_by_key_or_name_and_shown_by_the_name_it_has_now(work: Work, guild: str) -> None:
    key = record(work, "Painters of Marl")
    number = paint(work).id
    fill(work, number, **{guild: "painters of marl"})
    assert products.get(work, number).product.values[guild] == key
    assert shown(work, number, guild).things == (("Painters of Marl", "record", key, "painters-of-marl"),)
    change(work, "record", key, name="Painters of Marl and Fen")
    assert text_of(work, number, guild) == "Painters of Marl and Fen"
    change(work, "record_type", "guild", page=False)
    assert shown(work, number, guild).things[0][3] == ""


def test_what_is_not_there_is_kept_as_typed(work: Work, guild: str) -> None:
    number = paint(work).id
    fill(work, number, **{guild: "Nobody"})
    found = products.get(work, number)
    assert found.product.unread[guild] == "Nobody"
    assert found.outcomes[guild].wrong is not None
    assert found.outcomes[guild].wrong.code == "gone"
    record(work, "Nobody")
    assert products.get(work, number).outcomes[guild].state == "wrong"
    fill(work, number, **{guild: {"item": "nobody", "name": "<b>", "address": "x"}})
    assert products.get(work, number).product.values[guild] == "nobody"


def test_what_refers_to_a_record_holds_it_fast(work: Work, guild: str) -> None:
    key = record(work, "Painters of Marl")
    first, second = paint(work, 0).id, paint(work, 1).id
    fill(work, first, **{guild: key})
    fill(work, second, **{guild: key})
    uses = definitions.uses(work, "record", key)
    assert {(use.noun, use.key) for use in uses} == {("product", str(first)), ("product", str(second))}
    with pytest.raises(Refusal) as refused:
        definitions.remove(work, "record", key, 1)
    assert refused.value.code == "in_use"
    assert "and 1 more product" in refused.value.message
    fill(work, first, **{guild: None})
    fill(work, second, **{guild: None})
    condition = {"field": guild, "op": "is", "typed": "Painters of Marl"}
    made = definitions.create(work, "collection", "Of the guild", {"condition": condition}).thing
    assert made.condition == {"field": guild, "op": "is", "value": key}
    assert condition_words(made.condition, plans.draft(work.session)) == "Guild is Painters of Marl"
    with pytest.raises(Refusal, match="the collection Of the guild"):
        definitions.remove(work, "record", key, 1)
    definitions.remove(work, "collection", made.key, 1)
    definitions.remove(work, "record", key, 1)
    with pytest.raises(Refusal):
        definitions.remove(work, "record_type", "guild", 1)


def test_records_refer_to_one_another(work: Work, guild: str) -> None:
    given = {"kind": "record", "options": {"record_type": "guild"}}
    sister = new_fields.make(work, "Sister guild", given, None, Taker("record_type", "guild"))
    marl, fen = record(work, "Marl"), record(work, "Fen")
    holders.fill(work, "record", marl, 1, {sister: "Fen", "ss_town": "Marl Quay"})
    told = {field.field.key: field.value for field in holders.fields_of(work, "record", marl)}
    assert (told[sister].value, told[sister].shown, told[sister].named[0].name) == (fen, "Fen", "Fen")
    assert (fen, "Fen", "values") not in [
        (use.key, use.name, use.place) for use in definitions.uses(work, "record", marl)
    ]
    assert [(use.noun, use.key) for use in definitions.uses(work, "record", fen)] == [("record", marl)]
    with pytest.raises(Refusal, match="the record Marl"):
        definitions.remove(work, "record", fen, 1)
    doc = proofs.record_document(work.session, plans.draft_plans(work.session), marl)
    assert [entry.text for entry in doc.entries()] == ["Marl", "Marl Quay", "Fen"]
    definitions.remove(work, "field", sister, 1)
    assert sister not in writes.need_current(work, "record", marl).thing.filled


def test_a_record_stays_of_its_type(work: Work, guild: str) -> None:
    key = record(work, "Marl")
    definitions.create(work, "record_type", "School", {})
    with pytest.raises(Refusal) as refused:
        change(work, "record", key, type="school")
    assert refused.value.code == "values_exist"
    with pytest.raises(Refusal) as refused:
        record(work, "Nowhere", "nothing")
    assert refused.value.where == ("type",)


def test_products_that_others_refer_to_stay(work: Work, goes_with: str) -> None:
    first, second, third = (paint(work, place) for place in range(3))
    fill(work, first.id, **{goes_with: [second.id, str(third.id)]})
    assert text_of(work, first.id, goes_with) == f"{second.title}, {third.title}"
    with pytest.raises(Refusal, match=f"referred to by {first.title}"):
        products.remove(work, second.id, products.get(work, second.id).version)
    put_many(work, [ValueEdit(first.id, removes=True), ValueEdit(second.id, removes=True)])
    with pytest.raises(Refusal) as refused:
        fill(work, third.id, **{goes_with: [second.id]})
    assert (refused.value.code, refused.value.where) == ("gone", ("values", goes_with))


def test_of_several_that_refer_to_a_product_the_first_alone_is_named(work: Work, goes_with: str) -> None:
    first, second, third = (paint(work, place) for place in range(3))
    for other in (first, third):
        fill(work, other.id, **{goes_with: [second.id]})
    with pytest.raises(Refusal) as refused:
        products.remove(work, second.id, products.get(work, second.id).version)
    assert refused.value.message.endswith(f"referred to by {min(first, third, key=lambda found: found.id).title}")


def test_undo_of_what_names_something_gone_keeps_it_as_typed(work: Work, guild: str, goes_with: str) -> None:
    key, number, other = record(work, "Marl"), paint(work).id, paint(work, 1)
    fill(work, number, **{guild: key, goes_with: [other.id]})
    fill(work, number, **{guild: None, goes_with: None})
    emptied = history.history(work, "product", str(number), None)[0].id
    definitions.remove(work, "record", key, 1)
    products.remove(work, other.id, products.get(work, other.id).version)
    history.undo(work, emptied)
    found = products.get(work, number).product
    assert found.unread == {guild: key, goes_with: [other.id]}
    assert guild not in found.values


def test_a_release_renders_what_refers_to_something_called_otherwise(work: Work, guild: str, goes_with: str) -> None:
    key, number, other = record(work, "Marl"), paint(work).id, paint(work, 1)
    fill(work, number, **{guild: key, goes_with: [other.id]})
    told = {thing.key: thing for thing in pending.pending(work).things}
    assert told[key].surfaces["product_page"] == 0, "the product that refers to it is counted by itself"
    release.release(work, "first")
    assert live(work, number, guild) == "Marl"
    change(work, "record", key, name="Marl and Fen")
    fill(work, other.id, title="Otherwise called")
    told = {thing.key: thing for thing in pending.pending(work).things}
    assert told[key].surfaces["product_page"] == 1
    assert told[key].surfaces["listing_card"] == 0
    assert [row.id for row in differing.differing(work, "record", key).rows] == [number]
    made = release.release(work, "second")
    assert live(work, number, guild) == "Marl and Fen"
    assert live(work, number, goes_with) == "Otherwise called"
    assert made.counts["product_page"] == 2
    holders.fill(work, "record", key, 2, {"ss_town": "Marl Quay"})
    assert release.release(work, "third").counts == {}


def test_what_a_new_name_touches_is_told_before(work: Work, guild: str) -> None:
    key = record(work, "Marl")
    for place in range(3):
        fill(work, paint(work, place).id, **{guild: key})
    thing = definitions.changed_thing(work, "record", key, {"name": "Marl and Fen"})
    found = definitions.consequences(work, "record", key, thing)
    assert (found.products, found.surfaces["product_page"], found.surfaces["listing_card"]) == (3, 3, 0)
    same = definitions.changed_thing(work, "record", key, {"slug": "marl-guild"})
    assert definitions.consequences(work, "record", key, same).surfaces["product_page"] == 3
    change(work, "record_type", "guild", page=False)
    same = definitions.changed_thing(work, "record", key, {"slug": "marl-of-old"})
    assert definitions.consequences(work, "record", key, same).surfaces["product_page"] == 0


def test_a_record_with_a_page_lists_what_refers_to_it(work: Work, guild: str) -> None:
    key = record(work, "Marl")
    found = [paint(work, place).id for place in range(3)]
    for number in found:
        fill(work, number, **{guild: key})
    rows, total = proofs.cards(work, of_record(key))
    assert ({card.product.id for card in rows}, total) == (set(found), 3)
    release.release(work, "first")
    assert listings.totals(work.session)[str(of_record(key))] == 3
    fill(work, found[0], **{guild: None})
    change(work, "record", key, name="Marl and Fen")
    release.release(work, "second")
    assert listings.totals(work.session)[str(of_record(key))] == 2
    change(work, "record_type", "guild", page=False)
    release.release(work, "third")
    assert not listings.totals(work.session).get(str(of_record(key)))
    change(work, "record_type", "guild", page=True)
    release.release(work, "fourth")
    assert listings.totals(work.session)[str(of_record(key))] == 2


def test_references_are_found_by_words_those_that_begin_with_them_first(work: Work, guild: str) -> None:
    for name in ("Old Marl", "Marl", "Fen"):
        record(work, name)
    assert [choice.name for choice in references.choices(work, ("record_type", "guild"), "mar")] == ["Marl", "Old Marl"]
    assert references.choices(work, ("product", ""), paint(work).title)[0].item == paint(work).id
    assert references.choices(work, ("collection", ""), "")
    for target in (("record_type", "nothing"), ("value_list", "hue"), ("nothing", "")):
        with pytest.raises(Refusal):
            references.choices(work, target, "")


def test_records_come_in_pages_by_name(work: Work, guild: str) -> None:
    for number in range(records.PAGE + 1):
        record(work, f"Guild {number:03}")
    first = records.page(work, "guild", "", 0)
    assert (len(first.rows), first.total, first.next) == (records.PAGE, records.PAGE + 1, records.PAGE)
    assert [row.thing.name for row in records.page(work, "guild", "", records.PAGE).rows] == ["Guild 100"]
    assert records.page(work, None, "guild 04", 0).total == 10
    assert records.types_overview(work, "guild")[0].records == records.PAGE + 1
    assert len([hit for hit in find.find(work, "Guild 0") if hit.noun == "record"]) == find.MOST


def test_changes_and_conversions_tell_names(work: Work, guild: str) -> None:
    key, number = record(work, "Painters of Marl"), paint(work).id
    fill(work, number, **{guild: key})
    assert history.history(work, "product", str(number), None)[0].lines == ["Guild nothing → Painters of Marl"]
    change(work, "field", guild, kind="text", options={})
    assert products.get(work, number).product.values[guild] == "Painters of Marl"
    history.undo_last(work)
    assert products.get(work, number).product.values[guild] == key


def test_values_are_tried_on_fields_of_whatever_they_are_recorded_of(work: Work, guild: str) -> None:
    change(work, "field", "ss_town", limits={"max_length": 4})
    tried = fields.try_texts(work, "ss_town", {}, ["Marl", "Marlow"]).texts
    assert [text.wrong and text.wrong.code for text in tried] == [None, "long"]
    record(work, "Painters")
    assert fields.try_texts(work, guild, {}, ["painters"]).texts[0].wrong is None

"""Loading the demo: through the same services the studio uses, then one release, then a few changes left unreleased."""

from __future__ import annotations

import os
from collections.abc import Callable, Mapping, Sequence
from concurrent.futures import ProcessPoolExecutor
from dataclasses import replace
from functools import cache, partial
from pathlib import Path
from typing import Any

from sqlalchemy import insert, select
from sqlalchemy.orm import Session

from young_fabric.core.base.merge import ABSENT
from young_fabric.core.display.cascade import Scope, read_scope
from young_fabric.core.interchange.tables import read_csv
from young_fabric.core.kinds.file_types import FILE_TYPES
from young_fabric.core.kinds.files import File
from young_fabric.core.nouns.base import state_of
from young_fabric.core.nouns.lists.list_reading import paste, read_table
from young_fabric.core.nouns.lists.value_lists import ValueList
from young_fabric.demo import collections, layouts, options, records
from young_fabric.demo.catalogue import DemoGoods, definitions, goods
from young_fabric.demo.pictures import drawn
from young_fabric.demo.records import OPTIONS
from young_fabric.demo.sheets import sheet
from young_fabric.service.acting import people
from young_fabric.service.acting.actors import Work
from young_fabric.service.acting.unit import unit_of_work
from young_fabric.service.defining import definitions as use
from young_fabric.service.files import files, pictures
from young_fabric.service.products import products
from young_fabric.service.products.products import Filters
from young_fabric.service.releasing import release
from young_fabric.service.values import value_writer
from young_fabric.service.values.value_states import ValueEdit
from young_fabric.service.writing import writes
from young_fabric.service.writing.writes import Edit
from young_fabric.store.files import FilesOnDisk
from young_fabric.store.repos import shop
from young_fabric.store.tables import PersonRow, ShopRow

PEOPLE = [
    ("rosa@saltmarsh.example", "Rosa Marsh", "tide-and-teasel", ["look", "edit", "release"]),
    ("edwin@saltmarsh.example", "Edwin Fenn", "reed-and-rush", ["look", "edit"]),
    ("lena@saltmarsh.example", "Lena Quay", "gull-and-groyne", ["look"]),
]


Say = Callable[[str], None]


def load(
    sessions: Callable[[], Session], files: Path, with_pictures: bool = True, say: Say = lambda _words: None
) -> str:
    """Load the demo unless a shop is there; says who may sign in, and how far it is by `say`."""
    with sessions() as session:
        if shop.is_there(session):
            return sign_in_words("The shop is there already; what was changed is kept.")
        lay_ground(session)
        session.commit()
        person = session.scalars(select(PersonRow).order_by(PersonRow.id)).first()
    if person is None:
        raise RuntimeError("nobody was added")
    actor = people.actor_of(person)
    say("defining fields, sets and types")
    with unit_of_work(sessions, actor) as work:
        define(work)
    entered = goods() if with_pictures else tuple(replace(product, draw=("", "")) for product in goods())
    with unit_of_work(sessions, actor) as work:
        enter(work, FilesOnDisk(files), entered, say)
    if with_pictures:
        with unit_of_work(sessions, actor) as work:
            layouts.pin(work, partial(_drawn, work, FilesOnDisk(files)))
    say("gathering collections")
    with unit_of_work(sessions, actor) as work:
        collections.gather(work, own, definitions()["prefix"])
    say("offering choices")
    with unit_of_work(sessions, actor) as work:
        store = FilesOnDisk(files)
        options.offer(work, partial(_swatch, work, store) if with_pictures else lambda _sort, _colour: "")
        options.count_stock(work, [row.product.id for row in products.search(work, Filters(), None, 200).rows])
    say("releasing")
    with unit_of_work(sessions, actor) as work:
        release.release(work, "Opening day")
    with unit_of_work(sessions, actor) as work:
        leave_unreleased(work)
    return sign_in_words("Saltmarsh Studio Supply is loaded.")


def sign_in_words(first: str) -> str:
    """The people of the demo, with their passwords."""
    lines = [f"  {email:28} {password:18} may {', '.join(rights)}" for email, _, password, rights in PEOPLE]
    return "\n".join([first, "Sign in to the studio as:", *lines])


def lay_ground(session: Session) -> None:
    """The shop's own row and the people."""
    locale = "en"
    session.execute(
        insert(ShopRow).values(
            id=1,
            name="Saltmarsh Studio Supply",
            prefix=definitions()["prefix"],
            currency="EUR",
            locale=locale,
            title_order=shop.collation_for(session, locale),
            stamp=0,
        )
    )
    shop.order_titles(session)
    for email, name, password, rights in PEOPLE:
        people.add(session, email, name, password, rights)


def own(key: str) -> str:
    """A demo field's key with the shop's prefix, built-in ones as they are."""
    data = definitions()
    return f"{data['prefix']}{key}" if any(key == row["key"] for row in data["fields"]) else key


def define(work: Work) -> None:
    """Value lists, fields, sets, types and settings."""
    data = definitions()
    for key, row in data["lists"].items():
        writes.apply(work, "value_list", key, partial(_new, state_of(_listed(ValueList(key, row["name"]), row))))
    for key, row in data["copies"].items():
        use.create(work, "shared_copy", row["name"], {**row, "key": key})
    records.make_types(work, lambda key: f"{data['prefix']}{key}")
    for row in data["fields"]:
        options = {name: row[name] for name in OPTIONS if name in row}
        rest = {name: value for name, value in row.items() if name not in OPTIONS}
        use.create(work, "field", row["name"], {**rest, "options": options, "key": own(row["key"])})
    records.fill(work, lambda key: f"{data['prefix']}{key}")
    for key, row in data["sets"].items():
        sections = [
            {"key": f"s{number}", "name": title, "fields": [own(field) for field in inside]}
            for number, (title, inside) in enumerate(row["sections"], start=1)
        ]
        use.create(work, "field_set", row["name"], {"key": key, "sections": sections})
    for row in data["types"]:
        fields = [own(field) for field in row.get("fields", ())]
        needs = {own(field): need for field, need in row.get("needs", {}).items()}
        use.create(work, "product_type", row["name"], {**row, "fields": fields, "needs": needs})
    for row in data["settings"]:
        use.display(work, read_scope(row["scope"]), own(row["field"]), row["surface"], row["set"], None)
    layouts.arrange(work, own)


def _listed(empty: ValueList, row: Mapping[str, Any]) -> ValueList:
    """A list of the demo, written as lines or as a table."""
    if "table" in row:
        return read_table(empty, read_csv(row["table"].strip())).result
    return paste(empty, "\n".join(row["values"])).result


def _new(state: dict[str, Any], _current: Any) -> Edit:
    return Edit(ABSENT, state)


Shot = tuple[str, pictures.Encoded]
"""What a picture shows, and the picture ready to be kept."""


def draw(product: DemoGoods) -> list[Shot]:
    """The pictures of a product, drawn and encoded."""
    sort, colour = product.draw
    if not sort:
        return []
    sorts = [sort, "wash"] if product.type in ("watercolour", "gouache") else [sort]
    return [
        (
            f"A wash of {product.title}" if shape == "wash" else f"{product.title}, {shape}",
            pictures.encoded(drawn(shape, colour, f"{product.sku}{number}")),
        )
        for number, shape in enumerate(sorts)
    ]


def enter(work: Work, store: FilesOnDisk, entered: Sequence[DemoGoods], say: Say) -> None:
    """Products with their pictures, drawn on all cores, their values as typed, and their stock."""
    edits, stocks = [], []
    with ProcessPoolExecutor(max_workers=os.cpu_count() or 1) as pool:
        for number, (product, shots) in enumerate(zip(entered, pool.map(draw, entered), strict=True), start=1):
            made = products.create(work, product.type, product.title)
            shown = []
            for words, encoded in shots:
                kept = pictures.keep(work, store, f"{product.sku}.png", encoded)
                shown.append({"file": kept.file, "alt": words, "width": kept.width, "height": kept.height})
            typed = {own(key): _kept(work, store, key, value) for key, value in product.values.items()}
            typed |= {"sku": product.sku, "price": product.price, "contents": product.contents, "pictures": shown}
            edits.append(
                ValueEdit(made.product.id, made.version, {key: value for key, value in typed.items() if value})
            )
            if product.stock is not None:
                stocks.append((made.product.id, product.stock))
            if number % 8 == 0 or number == len(entered):
                say(f"{number} of {len(entered)} products")
    value_writer.put_many(work, edits)
    for product_id, amount in stocks:
        products.set_stock(work, product_id, None, amount)


def _kept(work: Work, store: FilesOnDisk, key: str, value: Any) -> Any:
    """What is filled in for a field: as the demo has it, or the file that is made of a title and lines."""
    if isinstance(value, list) and value and isinstance(value[0], dict):
        return [{name: _cell(work, store, cell) for name, cell in row.items()} for row in value]
    if key not in _file_fields():
        return value
    words, *lines = value.split("\n")
    kept = files.keep(work, store, f"{words}.pdf", sheet(words, lines), FILE_TYPES["pdf"])
    return {"file": kept.file, "words": words, "type": kept.type, "bytes": kept.bytes}


def _cell(work: Work, store: FilesOnDisk, cell: Any) -> Any:
    """A cell of rows as someone would fill it; a picture is drawn of its sort and colour."""
    if not isinstance(cell, list):
        return cell
    sort, colour = cell
    return _drawn(work, store, sort, colour, f"A {sort}, in colour")


def _drawn(work: Work, store: FilesOnDisk, sort: str, colour: str, alt: str) -> dict[str, Any]:
    """A picture drawn of a sort and colour, as values have it."""
    kept = pictures.keep(work, store, f"{sort}.png", pictures.encoded(drawn(sort, colour, f"{sort}{colour}")))
    return {"file": kept.file, "alt": alt, "width": kept.width, "height": kept.height}


def _swatch(work: Work, store: FilesOnDisk, sort: str, colour: str) -> str:
    """The stored file of a picture drawn of a sort and colour."""
    return str(_drawn(work, store, sort, colour, sort)["file"])


@cache
def _file_fields() -> frozenset[str]:
    return frozenset(row["key"] for row in definitions()["fields"] if row["kind"] == File.code)


def leave_unreleased(work: Work) -> None:
    """A few changes nobody has released yet: a setting, a limit that one paper breaks, a price."""
    use.display(work, Scope("type", "watercolour"), own("granul"), "listing_card", {"shown": True}, None)
    weight = writes.need_current(work, "field", own("paper_weight"))
    use.change(work, "field", weight.thing.key, weight.version, {"limits": {**weight.thing.limits, "max": "640"}})
    found = products.search(work, products.Filters(words="Estuary Easel"), None).rows[0]
    products.fill(work, found.product.id, found.version, {"price": "142.00"})

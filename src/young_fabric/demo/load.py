"""Loading the demo: through the same services the studio uses, then one release, then a few changes left unreleased."""

from __future__ import annotations

from collections.abc import Callable
from concurrent.futures import ProcessPoolExecutor
from dataclasses import replace
from pathlib import Path

from sqlalchemy import insert, select
from sqlalchemy.orm import Session

from young_fabric.core import value_lists
from young_fabric.core.display import Scope
from young_fabric.demo.catalogue import Goods, definitions, goods
from young_fabric.demo.pictures import drawn
from young_fabric.service import definitions as use
from young_fabric.service import people, pictures, products, release, writes
from young_fabric.service.actors import Work
from young_fabric.service.unit import unit_of_work
from young_fabric.service.weave import scope_of
from young_fabric.store.repos import shop
from young_fabric.store.tables import PersonRow, ShopRow

PEOPLE = [
    ("rosa@saltmarsh.example", "Rosa Marsh", "tide-and-teasel", ["look", "edit", "release"]),
    ("edwin@saltmarsh.example", "Edwin Fenn", "reed-and-rush", ["look", "edit"]),
    ("lena@saltmarsh.example", "Lena Quay", "gull-and-groyne", ["look"]),
]


def load(sessions: Callable[[], Session], files: Path, with_pictures: bool = True) -> str:
    """Load the demo unless a shop is there; says who may sign in."""
    with sessions() as session:
        if shop.is_there(session):
            return told("The shop is there already; what was changed is kept.")
        lay_ground(session)
        session.commit()
        person = session.scalars(select(PersonRow).order_by(PersonRow.id)).first()
    if person is None:
        raise RuntimeError("nobody was added")
    actor = people.actor_of(person)
    with unit_of_work(sessions, actor) as work:
        define(work)
    store = pictures.FilesOnDisk(files)
    with unit_of_work(sessions, actor) as work, ProcessPoolExecutor(max_workers=2) as pool:
        entered = goods() if with_pictures else tuple(replace(one, draw=("", "")) for one in goods())
        for one, shots in zip(entered, pool.map(draw, entered), strict=True):
            enter(work, store, one, shots)
    with unit_of_work(sessions, actor) as work:
        release.release(work, "Opening day")
    with unit_of_work(sessions, actor) as work:
        leave_open(work)
    return told("Saltmarsh Studio Supply is loaded.")


def told(first: str) -> str:
    """The people of the demo, with their passwords."""
    lines = [f"  {email:28} {password:18} may {', '.join(rights)}" for email, _, password, rights in PEOPLE]
    return "\n".join([first, "Sign in to the studio as:", *lines])


def lay_ground(session: Session) -> None:
    """The shop's own row and the people."""
    session.execute(
        insert(ShopRow).values(
            id=1, name="Saltmarsh Studio Supply", prefix=definitions()["prefix"], currency="EUR", locale="en", stamp=0
        )
    )
    for email, name, password, rights in PEOPLE:
        people.add(session, email, name, password, rights)


def own(key: str) -> str:
    """A demo field's key with the shop's prefix, built-in ones as they are."""
    said = definitions()
    return f"{said['prefix']}{key}" if any(key == row["key"] for row in said["fields"]) else key


def define(work: Work) -> None:
    """Value lists, fields, sets, types and settings."""
    said = definitions()
    for key, row in said["lists"].items():
        made = use.create(work, "list", row["name"], {"key": key})
        pasted = value_lists.paste(made.thing, "\n".join(row["values"]))
        writes.write(work, "list", key, pasted.result, made.version)
    for row in said["fields"]:
        use.create(work, "field", row["name"], {**row, "key": own(row["key"])})
    for key, row in said["sets"].items():
        sections = [
            {"key": f"s{place}", "name": title, "fields": [own(one) for one in inside]}
            for place, (title, inside) in enumerate(row["sections"], start=1)
        ]
        use.create(work, "set", row["name"], {"key": key, "sections": sections})
    for row in said["types"]:
        fields = [own(one) for one in row.get("fields", ())]
        needs = {own(one): need for one, need in row.get("needs", {}).items()}
        use.create(work, "type", row["name"], {**row, "fields": fields, "needs": needs})
    for row in said["settings"]:
        use.display(work, scope_of(row["scope"]), own(row["field"]), row["surface"], row["set"], 0)


def draw(one: Goods) -> list[tuple[str, bytes]]:
    """(what it shows, PNG) of each picture of a product."""
    sort, colour = one.draw
    if not sort:
        return []
    sorts = [sort, "wash"] if one.type in ("watercolour", "gouache") else [sort]
    return [
        (
            f"A wash of {one.title}" if kind == "wash" else f"{one.title}, {kind}",
            drawn(kind, colour, f"{one.sku}{place}"),
        )
        for place, kind in enumerate(sorts)
    ]


def enter(work: Work, store: pictures.FilesOnDisk, one: Goods, shots: list[tuple[str, bytes]]) -> None:
    """One product with its pictures, its values as typed, and its stock."""
    made = products.create(work, one.type, one.title)
    shown = []
    for words, content in shots:
        kept = pictures.keep(work, store, f"{one.sku}.png", content)
        shown.append({"file": kept.file, "alt": words, "width": kept.width, "height": kept.height})
    typed = {own(key): value for key, value in one.values.items() if value}
    typed |= {"sku": one.sku, "price": one.price, "contents": one.contents, "pictures": shown}
    products.fill(work, made.product.id, made.version, {key: value for key, value in typed.items() if value})
    if one.stock is not None:
        products.set_stock(work, made.product.id, None, one.stock)


def leave_open(work: Work) -> None:
    """A few changes nobody has released yet: a setting, a limit that one paper breaks, a price."""
    use.display(work, Scope("type", "watercolour"), own("granul"), "listing_card", {"shown": True}, 0)
    weight, version = writes.need_current(work, "field", own("paper_weight"))
    use.change(work, "field", weight.key, version, {"limits": {**weight.limits.given(), "max": "640"}})
    found = products.search(work, products.Filters(words="Estuary Easel"), None).rows[0]
    products.fill(work, found.product.id, found.version, {"price": "142.00"})

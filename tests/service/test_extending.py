"""One throwaway of each sort of thing, registered by this test alone: edited, rendered, released, exported and undone."""

from __future__ import annotations

from collections.abc import Callable, Iterator, Mapping
from dataclasses import dataclass, replace
from pathlib import Path
from typing import Any

import pytest
from flask import Flask
from flask_openapi3 import OpenAPI
from jinja2 import ChoiceLoader, DictLoader
from sqlalchemy import Connection, Engine
from sqlalchemy.orm import Session

from tests.conftest import person
from tests.web.conftest import SECRET, Api, app, rosa, stranger, wired  # noqa: F401
from young_fabric.config import Settings
from young_fabric.core.base.errors import Refusal
from young_fabric.core.base.shapes import STRICT
from young_fabric.core.display.blocks import BLOCK_KINDS, BlockKind
from young_fabric.core.display.cascade import Scope
from young_fabric.core.display.properties import PROPERTIES
from young_fabric.core.display.property import Property
from young_fabric.core.display.surfaces import CHOSEN_FROM, SURFACES, Surface
from young_fabric.core.kinds import KINDS, Kind, Spec
from young_fabric.core.kinds.shown import Text
from young_fabric.core.nouns.base import Noun, Telling
from young_fabric.core.nouns.layouts.built_in_layouts import BUILT_IN_LAYOUTS
from young_fabric.core.nouns.layouts.layout_parts import LayoutRegion
from young_fabric.core.nouns.registry import NOUNS
from young_fabric.core.pages.blocks import RENDERERS, Renderer, render_slot
from young_fabric.core.pages.document import from_json
from young_fabric.service import history
from young_fabric.service.acting.actors import Right, Work
from young_fabric.service.acting.findings import Check
from young_fabric.service.acting.unit import unit_of_work
from young_fabric.service.checking import checks
from young_fabric.service.checking.checks import CHECKS, CheckKind
from young_fabric.service.defining import definitions
from young_fabric.service.long_work import job_runs, jobs
from young_fabric.service.long_work.job_kinds import JOB_KINDS, JobKind, JobRun
from young_fabric.service.planning import plans
from young_fabric.service.products import products
from young_fabric.service.releasing import pending, release
from young_fabric.service.writing import writes
from young_fabric.store.base import make_sessions
from young_fabric.store.repos import releases
from young_fabric.web.api.shared.nouns import NounApi, register_noun_api
from young_fabric.web.app import create_app
from young_fabric.web.schemas import nouns as schemas
from young_fabric.web.shop.surface_pages import PAGES


class Marks(Kind):
    """One to five marks, typed as asterisks."""

    code, name, example = "marks", "marks", "***"

    def read(self, text: str, spec: Spec) -> int:
        if set(text.strip()) != {"*"}:
            raise Refusal("number", "Not marks", help="Write one to five asterisks")
        return len(text.strip())

    def well_formed(self, value: Any) -> bool:
        return isinstance(value, int) and not isinstance(value, bool) and 1 <= value <= 5

    def shower(self, spec: Spec, properties: Mapping[str, Any]) -> Callable[[Any], Text]:
        return lambda value: Text("◆" * value)


@dataclass(frozen=True)
class Notice:
    """Words to keep."""

    __pydantic_config__ = STRICT
    key: str
    name: str
    words: str = ""


NOTICE = Noun(
    code="notice",
    plural="notices",
    name="notice",
    group="What it is",
    type=Notice,
    check=lambda _notice, _defs: None,
    blank=lambda key, name, _defs: Notice(key, name),
    telling=Telling(
        describe=lambda before, after, _defs: [f"{before['words'] or 'nothing'} → {after['words'] or 'nothing'}"]
    ),
)
SHELF = Surface("shelf_label", "shelf label", "shelf", ("label", "labels"), path="l", options=CHOSEN_FROM)
LINES = {"id": "all", "kind": "lines", "takes": {"rest": True}}
SHELF_LAYOUT = ("Shelf label", SHELF.code, (LayoutRegion("main", (LINES,)),))
TINT = Property("tint", "Tint", "text", lambda _value: None, lambda _kind, _surface: "", lambda value: f"tint {value}")


def _count(run: JobRun, args: Mapping[str, Any]) -> dict[str, Any]:
    with run.unit() as work:
        found = products.search(work, products.Filters(type=str(args["type"])), None).total
    run.progress(found, found)
    return {"found": found}


def _asked(work: Work, given: Mapping[str, Any]) -> dict[str, Any]:
    if given.get("type") not in plans.draft(work.session).types:
        raise Refusal("not_found", "There is no such type", ("args", "type"), "Choose another")
    return {"type": given["type"]}


COUNTING = JobKind("counting", "Counting", Right.EDIT, _count, asked=_asked)
REGISTERED: list[tuple[dict[str, Any], str, Any]] = [
    (KINDS, Marks.code, Marks()),
    (NOUNS, NOTICE.code, NOTICE),
    (SURFACES, SHELF.code, SHELF),
    (BUILT_IN_LAYOUTS, SHELF.layout, SHELF_LAYOUT),
    (BLOCK_KINDS, "lines", BlockKind("lines", "lines", "Fields in lines", "Of the product", most_fields=300)),
    (RENDERERS, "lines", Renderer(render_slot)),
    (PROPERTIES, TINT.code, TINT),
    (JOB_KINDS, COUNTING.code, COUNTING),
    (CHECKS, "always", CheckKind("always", lambda _looking: [Check("always", "look", "Look again")], "")),
]


@pytest.fixture(autouse=True)
def _registered(monkeypatch: pytest.MonkeyPatch, connection: Connection) -> Iterator[None]:
    for registry, code, thing in REGISTERED:
        assert code not in registry
        monkeypatch.setitem(registry, code, thing)
    plans.forget()
    yield
    monkeypatch.undo()
    plans.forget()


def groyne(work: Work) -> products.AssessedProduct:
    return products.search(work, products.Filters(words="Groyne Studio"), None).rows[0]


def marked(work: Work) -> products.AssessedProduct:
    """An easel with marks: a field of the new kind, given to easels and filled."""
    definitions.create(work, "field", "Rank", {"kind": Marks.code})
    easels = writes.need_current(work, "product_type", "easels")
    definitions.change(work, "product_type", "easels", easels.version, {"fields": ["ss_rank"]})
    easel = groyne(work)
    products.fill(work, easel.product.id, easel.version, {"ss_rank": "***"})
    return groyne(work)


def live(work: Work, product: int) -> dict[str, Any]:
    rows = releases.documents_of(work.session, "product", product)
    return {row.surface: from_json(row.document) for row in rows}


def test_a_kind_is_filled_refused_released_and_undone(work: Work) -> None:
    easel = marked(work)
    assert easel.product.values["ss_rank"] == 3
    products.fill(work, easel.product.id, easel.version, {"ss_rank": "many"})
    assert groyne(work).outcomes["ss_rank"].state == "wrong"
    history.undo_last(work)
    assert groyne(work).product.values["ss_rank"] == 3
    release.release(work, "marks")
    shown = {entry.field: entry.text for entry in live(work, easel.product.id)["product_page"].entries()}
    assert shown["ss_rank"] == "◆◆◆"


def test_a_surface_with_a_layout_and_a_block_is_shown_counted_and_released(work: Work) -> None:
    easel = marked(work)
    assert pending.pending(work).surfaces[SHELF.code] > 0
    done = release.release(work, "labels")
    assert done.counts[SHELF.code] > 0
    label = live(work, easel.product.id)[SHELF.code]
    assert "◆◆◆" in [entry.text for entry in label.entries()]
    definitions.display(work, Scope("type", "easels"), "ss_rank", SHELF.code, {"shown": False}, None)
    again = release.release(work, "no marks on labels")
    assert again.counts == {SHELF.code: 1}
    assert "◆◆◆" not in [entry.text for entry in live(work, easel.product.id)[SHELF.code].entries()]


@pytest.fixture
def lines_template(app: Flask) -> Iterator[None]:  # noqa: F811
    """The template of the block, as it stands in its folder."""
    loader = app.jinja_env.loader
    text = "{% macro show(block, page, panel) %}<pre>{{ block|facts }}</pre>{% endmacro %}"
    app.jinja_env.loader = ChoiceLoader([DictLoader({"blocks/lines.html": text}), loader])  # type: ignore[list-item]
    yield
    app.jinja_env.loader = loader


@pytest.mark.usefixtures("lines_template")
def test_a_surface_has_a_page_in_the_proof_and_in_the_shop(work: Work, rosa: Api, stranger: Api) -> None:  # noqa: F811
    easel = marked(work)
    address = f"/shop/{SHELF.path}/{easel.product.values['slug']}"
    draft = rosa.client.get(f"/proof/surface/{SHELF.code}/{easel.product.id}").get_data(as_text=True)
    assert "◆◆◆" in draft
    assert 'data-part="all"' in draft
    assert f'data-buy="/proof/surface/{SHELF.code}/{easel.product.id}"' in draft, "what is chosen there can be sent"
    assert {surface.page for surface in SURFACES.values()} <= PAGES.keys()
    before = stranger.client.get(address)
    assert (before.status_code, before.headers.get("Location")) == (303, f"/shop/p/{easel.product.values['slug']}")
    release.release(work, "labels")
    shown = stranger.client.get(address)
    assert shown.status_code == 200
    assert "◆◆◆" in shown.get_data(as_text=True)
    assert stranger.client.get(f"/shop/{SHELF.path}/nowhere").status_code == 404
    assert stranger.client.get(f"/shop/elsewhere/{easel.product.values['slug']}").status_code == 404


def test_a_property_is_set_told_resolved_and_undone(work: Work) -> None:
    scope, place = Scope("type", "easels"), ("ss_wood", "product_page")
    definitions.display(work, scope, *place, {"tint": "moss"}, None)
    lines = {thing.key: thing.lines for thing in pending.pending(work).things}
    assert any("tint moss" in line for line in lines["type:easels/ss_wood/product_page"])
    made = plans.draft_of(work.session).plans.of_type("easels", "product_page")
    assert made.entries["ss_wood"].settings["tint"].value == "moss"
    history.undo_last(work)
    made = plans.draft_of(work.session).plans.of_type("easels", "product_page")
    assert made.entries["ss_wood"].settings["tint"].value == ""


def test_a_check_is_found_with_the_others(work: Work) -> None:
    assert "Look again" in [check.text for check in checks.checks(work)]


def test_a_noun_is_made_changed_removed_undone_and_released(work: Work) -> None:
    made = definitions.create(work, NOTICE.code, "Closing days", {"words": "Monday"})
    key = made.thing.key
    definitions.change(work, NOTICE.code, key, made.version, {"words": "Tuesday"})
    assert [change.lines for change in history.history(work, NOTICE.code, key, None)] == [["Monday → Tuesday"], ["new"]]
    release.release(work, "notices")
    assert pending.pending_count(work) == 0
    version = writes.need_current(work, NOTICE.code, key).version
    definitions.remove(work, NOTICE.code, key, version)
    history.undo_last(work)
    back = writes.need_current(work, NOTICE.code, key)
    assert (back.thing, back.version > version) == (Notice(key, "Closing days", "Tuesday"), True)


class NoticeOut(schemas.ThingOut):
    """A notice."""

    thing: Notice


def test_a_noun_has_all_routes_from_one_line(engine: Engine, sessions: Callable[[], Session], tmp_path: Path) -> None:
    settings = Settings(DATABASE_URL="postgresql://unused", secret=SECRET, files=tmp_path)  # type: ignore[arg-type]
    own = create_app(settings, engine)
    own.extensions["sessions"] = own.extensions["snapshots"] = sessions
    rows = lambda work, key: [writes.need_current(work, NOTICE.code, key or "closing_days")]  # noqa: E731
    assert isinstance(own, OpenAPI)
    own.register_api(register_noun_api(NounApi(NOTICE, NoticeOut, rows)))
    noting = Api(own.test_client()).sign_in(0)
    made = noting.send("POST", "/api/notices", {"name": "Closing days"}).get_json()
    assert made["thing"] == {"key": "closing_days", "name": "Closing days", "words": ""}
    changed = noting.send(
        "PATCH", "/api/notices/closing_days", {"words": "Monday", "version": made["version"]}
    ).get_json()
    assert changed["thing"]["words"] == "Monday"
    assert noting.get("/api/notices")["things"][0]["version"] == changed["version"]
    assert noting.refused("PATCH", "/api/notices/closing_days", {"word": "x", "version": 1})[1]["code"] == "unknown_key"
    assert noting.send("DELETE", f"/api/notices/closing_days?version={changed['version']}").status_code == 200
    assert noting.send("POST", "/api/undo").status_code == 200
    assert noting.get("/api/notices/closing_days")["thing"]["words"] == "Monday"


def test_a_job_is_asked_for_by_all_who_may_in_one_way(rosa: Api, work: Work) -> None:  # noqa: F811
    asked = rosa.send("POST", "/api/jobs", {"kind": COUNTING.code, "args": {"type": "easels"}}).get_json()
    assert (asked["name"], asked["state"]) == ("Counting", "waiting")
    assert rosa.get(f"/api/jobs/{asked['id']}")["kind"] == COUNTING.code
    for body, where in (
        ({"kind": COUNTING.code, "args": {"type": "gone"}}, ["args", "type"]),
        ({"kind": "nothing"}, ["kind"]),
        ({"kind": "undo"}, ["kind"]),
    ):
        status, refusal = rosa.refused("POST", "/api/jobs", body)
        assert (status, refusal["code"], refusal["where"]) == (404, "not_found", where)
    assert "counting" in refusal["help"]
    looking = replace(work, actor=replace(work.actor, rights=frozenset({Right.LOOK})))
    with pytest.raises(Refusal) as caught:
        jobs.ask_for(looking, COUNTING.code, {"type": "easels"})
    assert caught.value.code == "forbidden"


def test_a_job_is_asked_for_done_and_listed(own_engine: Engine) -> None:
    shop = make_sessions(own_engine)
    with shop() as session:
        rosa = person(session, 0)
    with unit_of_work(shop, rosa) as work:
        number = jobs.ask(work, COUNTING, {"type": "easels"}).id
    assert job_runs.run(shop, number) == "done"
    with unit_of_work(shop, rosa) as work:
        job = next(job for job in jobs.listed(work) if job.id == number)
        assert (job.name, job.state, job.result) == ("Counting", "done", {"found": job.total})

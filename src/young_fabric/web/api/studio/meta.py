"""What the studio asks once: the registries, units and the shop."""

from __future__ import annotations

from flask import Response

from young_fabric.core.base.units import UNITS
from young_fabric.core.display.blocks import BLOCK_KINDS, BlockKind
from young_fabric.core.display.icons import ICONS
from young_fabric.core.display.properties import PROPERTIES
from young_fabric.core.display.surfaces import SURFACES
from young_fabric.core.kinds import KINDS, Kind
from young_fabric.core.kinds.file_types import FILE_TYPES
from young_fabric.core.kinds.limits import OF_MANY
from young_fabric.core.kinds.schema_org import PROPERTIES as SCHEMA_ORG
from young_fabric.core.nouns.base import Noun
from young_fabric.core.nouns.options.option_kinds import OPTION_KINDS, UPLOADS
from young_fabric.core.nouns.registry import NOUNS
from young_fabric.core.subjects.registry import SUBJECTS
from young_fabric.service.acting.actors import Right
from young_fabric.service.planning import plans
from young_fabric.web.api import answers, blueprint, reply
from young_fabric.web.auth import allow, work
from young_fabric.web.schemas import meta as s

api = blueprint("meta")


@api.get("/meta", responses=answers(s.MetaOut))
@allow(Right.LOOK)
def meta() -> Response:
    """Kinds, units, surfaces, properties, nouns and the shop."""
    with work() as unit:
        shop = plans.draft(unit.session).shop
    return reply(
        s.MetaOut,
        {
            "kinds": list(map(_kind, KINDS.values())),
            "units": [{"symbol": unit.symbol, "dimension": unit.dimension} for unit in UNITS],
            "file_types": list(FILE_TYPES.values()),
            "schema_org": list(SCHEMA_ORG.values()),
            "icons": [icon._asdict() for icon in ICONS.values()],
            "surfaces": [{**vars(surface), "counted": list(surface.counted)} for surface in SURFACES.values()],
            "properties": [prop for prop in PROPERTIES.values() if not prop.whole],
            "blocks": list(map(_block_kind, BLOCK_KINDS.values())),
            "option_kinds": list(OPTION_KINDS.values()),
            "uploads": [{"value": code, "label": label} for code, label in UPLOADS.items()],
            "nouns": [*map(_noun, NOUNS.values()), *SUBJECTS.values()],
            "subjects": [*SUBJECTS.values(), *[noun for noun in NOUNS.values() if noun.holding.fields is not None]],
            "shop_name": shop.name,
            "prefix": shop.prefix,
            "currency": shop.currency,
            "locale": shop.locale,
        },
    )


def _noun(noun: Noun) -> dict[str, object]:
    members = {name: getattr(noun, name) for name in ("code", "plural", "name", "group")}
    return {**members, "takes": None if noun.taking is None else noun.taking.fields_of}


def _block_kind(kind: BlockKind) -> dict[str, object]:
    names = (
        "code",
        "name",
        "help",
        "also",
        "group",
        "most_fields",
        "fewest_regions",
        "most_regions",
        "once",
        "becomes",
    )
    kinds = _kind_codes(kind.kinds) if kind.takes_fields else []
    surfaces = [code for code, surface in SURFACES.items() if kind.stands_on(surface)]
    members = {name: getattr(kind, name) for name in names}
    return {
        **members,
        "kinds": kinds,
        "surfaces": surfaces,
        "members": [{**vars(member), "kinds": _kind_codes(member.kinds)} for member in kind.all_members()],
    }


def _kind_codes(kinds: tuple[type[Kind], ...]) -> list[str]:
    return [code for code, known in KINDS.items() if kinds and isinstance(known, kinds)]


def _kind(kind: Kind) -> dict[str, object]:
    own = [{**vars(limit), "many": False} for limit in kind.limits]
    limits = [*own, *[limit for limit in OF_MANY if kind.takes_many and limit not in kind.limits]]
    names = ("code", "name", "example", "options", "own_fields", "takes_many", "takes_default", "several", "shapes")
    in_rows = kind.own_fields and kind.in_rows
    return {**{name: getattr(kind, name) for name in names}, "in_rows": in_rows, "limits": limits}

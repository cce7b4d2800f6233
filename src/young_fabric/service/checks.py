"""What is wrong or worth a look before a release."""

from __future__ import annotations

from dataclasses import dataclass

from young_fabric.core.display import SURFACES
from young_fabric.core.fields import BUILT_IN
from young_fabric.core.plans import Plans
from young_fabric.service import plans
from young_fabric.service.actors import Right, Work
from young_fabric.service.gaps import required_keys
from young_fabric.store.repos import products


@dataclass(frozen=True)
class Check:
    """A finding: `level` is wrong, look or good; `link` the place to mend it, as (noun, key)."""

    code: str
    level: str
    text: str
    count: int = 0
    link: tuple[str, str] | None = None


def checks(work: Work) -> list[Check]:
    """All findings, the wrong ones first, and what was found good."""
    work.need(Right.LOOK)
    all_plans = plans.draft_plans(work.session)
    found = [*_required(work, all_plans), *_wrong(work, all_plans), *_unseen(all_plans), *_unused(work, all_plans)]
    clean = {
        "required": "No product lacks a required value",
        "wrong": "No value breaks its limits",
        "unseen": "Every field for shoppers shows on some surface",
        "unused": "Every field is on some type",
    }
    bad = {one.code for one in found}
    found += [Check(code, "good", text) for code, text in clean.items() if code not in bad]
    order = ("wrong", "look", "good")
    return sorted(found, key=lambda one: order.index(one.level))


def _required(work: Work, all_plans: Plans) -> list[Check]:
    """Per required field: how many products lack it."""
    types_by_key: dict[str, list[str]] = {}
    for type_key, keys in required_keys(all_plans.defs).items():
        for key in keys:
            types_by_key.setdefault(key, []).append(type_key)
    lacking = products.lacking_counts(work.session, types_by_key)
    out = []
    for key, count in sorted(lacking.items(), key=lambda pair: -pair[1]):
        if count:
            name = all_plans.defs.all_fields[key].name
            lack = "product lacks" if count == 1 else "products lack"
            out.append(Check("required", "wrong", f"{count} {lack} {name}, which is required", count, ("lacking", key)))
    return out


def _wrong(work: Work, all_plans: Plans) -> list[Check]:
    out = []
    for key, count in products.wrong_counts(work.session).items():
        this = all_plans.defs.all_fields.get(key)
        if this:
            verb = "value is" if count == 1 else "values are"
            out.append(Check("wrong", "wrong", f"{count} {verb} wrong in {this.name}", count, ("wrong", key)))
    return out


def _unseen(all_plans: Plans) -> list[Check]:
    """Fields for shoppers or feeds that types have and that no surface shows for any type."""
    defs = all_plans.defs
    had: set[str] = set()
    placed: set[str] = set()
    for type_key in defs.types:
        for surface in SURFACES:
            for key, entry in all_plans.of_type(type_key, surface).entries.items():
                had.add(key)
                if entry.placed and (surface != "structured_data" or entry.field.audience == "feeds"):
                    placed.add(key)
    unseen = [
        defs.all_fields[key]
        for key in sorted(had - placed)
        if key not in BUILT_IN and defs.all_fields[key].audience != "staff"
    ]
    return [
        Check("unseen", "look", f"{one.name} is filled in and no page or card shows it", 1, ("weave", one.key))
        for one in unseen
    ]


def _unused(work: Work, all_plans: Plans) -> list[Check]:  # noqa: ARG001
    defs = all_plans.defs
    used = {e.field.key for key in defs.types for e in defs.effective(key)}
    return [
        Check("unused", "look", f"{one.name} is on no product type", 1, ("field", one.key))
        for one in sorted(defs.fields.values(), key=lambda f: f.name)
        if one.key not in used
    ]

"""What is wrong or worth a look before a release: a registry of checks, each finding its own."""

from __future__ import annotations

from collections.abc import Callable, Iterable
from dataclasses import dataclass

from young_fabric.core.display.surfaces import SURFACES
from young_fabric.core.nouns import fields
from young_fabric.core.nouns.definitions import Group
from young_fabric.service import judging, plans
from young_fabric.service.actors import Right, Work
from young_fabric.service.plans import Draft
from young_fabric.store.repos import fills


@dataclass(frozen=True)
class Check:
    """A finding: `level` is wrong, look or good; `link` the place to mend it, as (sort of place, key)."""

    code: str
    level: str
    text: str
    count: int = 0
    link: tuple[str, str] | None = None


@dataclass(frozen=True)
class CheckKind:
    """One sort of check: how findings are found, and the words where there are none."""

    code: str
    find: Callable[[Work, Draft], Iterable[Check]]
    clean: str


def checks(work: Work) -> list[Check]:
    """All findings, the wrong ones first, and what was found good."""
    work.need(Right.LOOK)
    draft = plans.draft_of(work.session)
    found: list[Check] = []
    for kind in CHECKS.values():
        findings = list(kind.find(work, draft))
        found += findings or ([Check(kind.code, "good", kind.clean)] if kind.clean else [])
    order = ("wrong", "look", "good")
    return sorted(found, key=lambda check: order.index(check.level))


def _being_judged(work: Work, draft: Draft) -> Iterable[Check]:  # noqa: ARG001
    if judging.being_judged(work):
        yield Check("judging", "look", "Values are still being judged after a change: the counts below may move")


def _required(work: Work, draft: Draft) -> Iterable[Check]:
    """Per required field: how many products lack it."""
    groups_by_key: dict[str, list[fills.GroupKey]] = {}
    for group in fills.counts_by_group(work.session):
        for key in draft.assessor.required(draft.assessor.group(*group)):
            groups_by_key.setdefault(key, []).append(group)
    lacking = fills.lacking_counts(work.session, groups_by_key)
    for key, count in sorted(lacking.items(), key=lambda pair: -pair[1]):
        if count:
            name = draft.defs.all_fields[key].name
            lack = "product lacks" if count == 1 else "products lack"
            yield Check("required", "wrong", f"{count} {lack} {name}, which is required", count, ("lacking", key))


def _wrong(work: Work, draft: Draft) -> Iterable[Check]:
    for key, count in fills.wrong_counts(work.session).items():
        definition = draft.defs.all_fields.get(key)
        if definition:
            verb = "value is" if count == 1 else "values are"
            yield Check("wrong", "wrong", f"{count} {verb} wrong in {definition.name}", count, ("wrong", key))


def _unseen(work: Work, draft: Draft) -> Iterable[Check]:
    """Own fields for shoppers or feeds that types have and that no surface for their readers shows for any type."""
    had: set[str] = set()
    placed: set[str] = set()
    groups = {Group(key) for key in draft.defs.types} | plans.group_counts(work.session, draft.defs).keys()
    for group in draft.plans.there(groups):
        for code, surface in SURFACES.items():
            for key, entry in draft.plans.of_group(group, code).entries.items():
                had.add(key)
                if entry.placed and (not surface.data or entry.field.audience == "feeds"):
                    placed.add(key)
    for key in sorted(had - placed):
        definition = draft.defs.all_fields[key]
        if definition.own and definition.audience != "staff":
            yield Check(
                "unseen", "look", f"{definition.name} is filled in and no page or card shows it", 1, ("weave", key)
            )


def _unused(work: Work, draft: Draft) -> Iterable[Check]:  # noqa: ARG001
    for definition in sorted(draft.defs.product_fields.values(), key=lambda field: field.name):
        if definition.key not in draft.defs.holders:
            yield Check(
                "unused", "look", f"{definition.name} is on no product type", 1, (fields.NOUN.code, definition.key)
            )


CHECKS: dict[str, CheckKind] = {
    kind.code: kind
    for kind in (
        CheckKind("judging", _being_judged, ""),
        CheckKind("required", _required, "No product lacks a required value"),
        CheckKind("wrong", _wrong, "No value breaks its limits"),
        CheckKind("unseen", _unseen, "Every field for shoppers shows on some surface"),
        CheckKind("unused", _unused, "Every field is on some type"),
    )
}
"""Every check by its code, in the order they are told."""

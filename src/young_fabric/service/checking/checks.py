"""What is wrong or worth a look before a release: a registry of checks, each finding its own."""

from __future__ import annotations

from collections.abc import Callable, Iterable
from dataclasses import dataclass

from young_fabric.core.nouns.fields import fields
from young_fabric.service.acting.actors import Right, Work
from young_fabric.service.acting.findings import Check
from young_fabric.service.checking import layout_checks, option_checks, unread_checks
from young_fabric.service.planning import plans
from young_fabric.service.planning.survey import Checking
from young_fabric.service.values import judging
from young_fabric.store.repos import fills


@dataclass(frozen=True)
class CheckKind:
    """One sort of check: how findings are found, and the words where there are none."""

    code: str
    find: Callable[[Checking], Iterable[Check]]
    clean: str


def checks(work: Work) -> list[Check]:
    """All findings, the wrong ones first, and what was found good."""
    work.need(Right.LOOK)
    looking = Checking(work, plans.draft_of(work.session))
    found: list[Check] = []
    for kind in CHECKS.values():
        findings = list(kind.find(looking))
        found += findings or ([Check(kind.code, "good", kind.clean)] if kind.clean else [])
    order = ("wrong", "look", "good")
    return sorted(found, key=lambda check: order.index(check.level))


def _being_judged(looking: Checking) -> Iterable[Check]:
    if judging.being_judged(looking.work):
        yield Check("judging", "look", "Values are still being judged after a change: the counts below may move")


def _required(looking: Checking) -> Iterable[Check]:
    """Per required field: how many products lack it."""
    work, draft = looking.work, looking.draft
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


def _wrong(looking: Checking) -> Iterable[Check]:
    work, draft = looking.work, looking.draft
    for key, count in fills.wrong_counts(work.session).items():
        definition = draft.defs.all_fields.get(key)
        if definition:
            verb = "value is" if count == 1 else "values are"
            yield Check("wrong", "wrong", f"{count} {verb} wrong in {definition.name}", count, ("wrong", key))


def _unseen(looking: Checking) -> Iterable[Check]:
    """Own fields for shoppers or feeds that types have and that no surface for their readers shows for any type."""
    for key in sorted(looking.survey.had - looking.survey.placed):
        definition = looking.defs.all_fields[key]
        if definition.own and definition.audience != "staff":
            yield Check(
                "unseen", "look", f"{definition.name} is filled in and no page or card shows it", 1, ("weave", key)
            )


def _unused(looking: Checking) -> Iterable[Check]:
    draft = looking.draft
    for definition in sorted(draft.defs.product_fields.values(), key=lambda field: field.name):
        if definition.key not in draft.defs.holders:
            yield Check(
                "unused", "look", f"{definition.name} is on no product type", 1, (fields.NOUN.code, definition.key)
            )


CHECKS: dict[str, CheckKind] = {
    kind.code: kind
    for kind in (
        CheckKind("judging", _being_judged, ""),
        CheckKind("unread", unread_checks.unread, ""),
        CheckKind("required", _required, "No product lacks a required value"),
        CheckKind("wrong", _wrong, "No value breaks its limits"),
        CheckKind("unseen", _unseen, "Every field for shoppers shows on some surface"),
        CheckKind("unused", _unused, "Every field is on some type"),
        CheckKind("no_slot", layout_checks.no_slot, "Every field that is to show has a place"),
        CheckKind("two_slots", layout_checks.two_slots, ""),
        CheckKind("labels_twice", layout_checks.labels_twice, "No label stands twice on a page"),
        CheckKind("never_filled", layout_checks.never_filled, ""),
        CheckKind("empty_panels", layout_checks.empty_panels, ""),
        CheckKind("alone", layout_checks.alone, ""),
        CheckKind("unsaid", layout_checks.unsaid, ""),
        CheckKind("contrast", layout_checks.contrast, ""),
        CheckKind("alike_layouts", layout_checks.alike, ""),
        CheckKind("options_unplaced", option_checks.unplaced, "What can be chosen has a place on every page"),
        CheckKind("clashing_sets", option_checks.clashing_sets, ""),
        CheckKind("variant_unread", option_checks.unread_values, ""),
        CheckKind("unmatched", option_checks.unmatched, ""),
        CheckKind("lost_skus", option_checks.lost_skus, ""),
        CheckKind("lost_steps", layout_checks.lost_steps, "Every layout fits what it builds on"),
    )
}
"""Every check by its code, in the order they are told."""

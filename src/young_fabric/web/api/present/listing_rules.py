"""Cards on listings: what is said of them, and what that gives."""

from __future__ import annotations

from flask import Response

from young_fabric.core.base.errors import Refusal
from young_fabric.core.display.cascade import read_scope
from young_fabric.core.display.properties import PROPERTIES
from young_fabric.core.nouns.layouts.display_settings import origin_name
from young_fabric.core.nouns.registry import NOUNS
from young_fabric.core.pages.listed import Listing
from young_fabric.service.acting.actors import Right
from young_fabric.service.pages import listing_rules
from young_fabric.service.planning import plans
from young_fabric.web.api import answers, blueprint, reply
from young_fabric.web.auth import allow, work
from young_fabric.web.schemas import listing_rules as s

api = blueprint("listing_rules")


@api.get("/listing_rules", responses=answers(s.RulesOut))
@allow(Right.LOOK)
def rules_list() -> Response:
    """Who says something of cards on listings: the shop, collections, products."""
    with work() as unit:
        found = [
            {
                "scope": rule.scope,
                "name": rule.name,
                "lines": [PROPERTIES[code].words(value) for code, value in rule.own.items()],
            }
            for rule in listing_rules.said_rules(unit)
        ]
        return reply(s.RulesOut, {"rules": found})


@api.get("/listing_rules/open", responses=answers(s.OpenRuleOut))
@allow(Right.LOOK)
def rule_open(query: s.RuleQuery) -> Response:
    """All that can be said of cards for a scope; it is set as the whole of the surface that stands on listings."""
    scope = read_scope(query.scope)
    with work() as unit:
        found = listing_rules.open_rule(unit, scope)
        defs = plans.draft(unit.session)
        properties = [
            {
                "code": member.prop.code,
                "name": member.prop.name,
                "control": member.prop.control,
                "value": member.found.value,
                "origin": member.found.origin,
                "origin_name": "" if member.found.origin == "default" else origin_name(defs, member.found.origin),
                "own": member.own,
                "choices": member.choices,
            }
            for member in found.members
        ]
        head = {"scope": str(scope), "name": found.name, "version": found.version}
        return reply(s.OpenRuleOut, {**head, "properties": properties})


@api.get("/listing_rules/cards", responses=answers(s.ListingCardsOut))
@allow(Right.LOOK)
def rule_cards(query: s.ListingQuery) -> Response:
    """How many cards a listing of the draft has, which of them are called the same, and what is not there."""
    if query.noun not in NOUNS or NOUNS[query.noun].calling.address is None:
        raise Refusal("not_found", f"{query.noun} has no listings", ("noun",), "Ask of a type or a collection")
    with work() as unit:
        return reply(s.ListingCardsOut, listing_rules.cards_of_listing(unit, Listing(query.noun, query.key)))

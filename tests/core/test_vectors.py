"""Every case of every rule file in the folder FABRIC_VECTORS names (default tests/vectors)."""

from __future__ import annotations

import json
import os
from dataclasses import asdict
from decimal import Decimal
from pathlib import Path
from typing import Any

import pytest

from young_fabric.core.base.conditions import holds
from young_fabric.core.base.errors import Refusal
from young_fabric.core.base.merge import merge
from young_fabric.core.base.wording.phrases import read_phrase
from young_fabric.core.display.cascade import Cascade, Chain, DisplaySetting, Scope
from young_fabric.core.display.layouts import resolve_layout
from young_fabric.core.display.listing_properties import rule_for
from young_fabric.core.display.properties import PROPERTIES, check_properties
from young_fabric.core.kinds import Spec
from young_fabric.core.listing.facets import Bounds, FacetCard, Selected, count
from young_fabric.core.listing.fan_out import FanProduct, FanVariant, fan_out
from young_fabric.core.nouns.lists.list_values import ListValue
from young_fabric.core.nouns.lists.value_lists import ValueList
from young_fabric.core.options import swatches
from young_fabric.core.options.combinations import Axis, ExistingVariant, combine, reconcile
from young_fabric.core.options.combinations import count as count_combinations
from young_fabric.core.options.pricing import PriceEffect, price
from young_fabric.core.options.sku import make_sku
from young_fabric.core.subjects.completeness import Wanted, completeness
from young_fabric.core.subjects.unit_price import unit_price
from young_fabric.core.subjects.values import read_value

FOLDER = Path(os.environ.get("FABRIC_VECTORS") or Path(__file__).parents[1] / "vectors")


def run_cascade(given: dict[str, Any]) -> Any:
    cascade = Cascade(
        DisplaySetting(Scope(r["scope"]["kind"], r["scope"].get("key", "")), r["field"], r["surface"], r["set"])
        for r in given["rules"]
    )
    chain = given["chain"]
    found = cascade.resolve(
        Chain(chain.get("product"), tuple(chain.get("collections", ())), tuple(chain.get("types", ()))),
        given["ask"]["field"],
        given["ask"]["surface"],
        given["defaults"],
    )
    return {name: {"value": resolved.value, "from": resolved.origin} for name, resolved in found.items()}


def run_completeness(given: dict[str, Any]) -> Any:
    fields = [Wanted(f["key"], f["need"], f.get("applies", True)) for f in given["fields"]]
    found = asdict(completeness(fields, given["state"]))
    return {name: list(value) if isinstance(value, tuple) else value for name, value in found.items()}


def run_phrases(given: dict[str, Any]) -> Any:
    return {"text": read_phrase(given["phrase"], given["known"]).fill(given["values"], given["fallback"])}


def run_price(given: dict[str, Any]) -> Any:
    effects = [
        PriceEffect(e["option"], e["mode"], Decimal(e["value"]), e.get("charge", "each")) for e in given["effects"]
    ]
    found = price(given["currency"], Decimal(given["base"]), given["quantity"], effects)._asdict()
    return {**found, "lines": [line._asdict() for line in found["lines"]]}


def run_unit_price(given: dict[str, Any]) -> Any:
    def pair(measure: dict[str, Any] | None) -> tuple[Decimal, str]:
        return (Decimal(measure.get("amount") or 0), measure.get("unit") or "") if measure else (Decimal(0), "")

    contents = given.get("contents")
    count = Decimal(str((contents or {}).get("count", 1)))
    found = unit_price(Decimal(given["price"]), given["currency"], count, pair(contents), pair(given.get("reference")))
    return {"amount": found.amount, "label": found.label}


def run_values(given: dict[str, Any]) -> Any:
    choices = tuple(ListValue(c["code"], c["label"], tuple(c.get("synonyms", ()))) for c in given.get("choices", ()))
    options = {"unit": given["unit"]} if given.get("unit") else {}
    spec = Spec(given.get("limits", {}), options, ValueList("given", "Given", choices), given["locale"])
    return {"value": read_value(given["kind"], given["text"], spec)}


def run_fan_out(given: dict[str, Any]) -> Any:
    product, listing = given["product"], given["listing"]
    options = tuple(product.get("options", ()))

    def is_gone(stock: int | None) -> bool:
        return stock is not None and stock <= 0

    def money(text: str | None) -> Decimal | None:
        return None if text is None else Decimal(text)

    variants = tuple(
        FanVariant(row["id"], row["values"], money(row.get("price")), is_gone(row.get("stock")), row.get("sku") or "")
        for row in sorted(product.get("variants", ()), key=lambda row: row["position"])
    )
    fanned = FanProduct(
        product["title"],
        product.get("sku") or "",
        money(product.get("price")),
        options,
        product.get("labels", {}),
        variants,
        is_gone(product.get("stock")),
    )
    said = [
        DisplaySetting(Scope(row["scope"]["kind"], row["scope"].get("key", "")), "*", "listing_card", row["set"])
        for row in given["rules"]
    ]
    for setting in said:
        check_properties({code: value for code, value in setting.set.items() if code in PROPERTIES})
        read_phrase(setting.set.get("title", ""), {"product", "sku", *given["known"]})
    rule = rule_for(Cascade(said), product["key"], listing.get("key") if listing["kind"] == "collection" else None)
    cards = fan_out(rule, listing["kind"], fanned)

    def shown(price: Decimal | None) -> str | None:
        return None if price is None else str(price)

    return {
        "cards": [
            {
                "variant": card.variant,
                "title": card.title,
                "price_from": shown(card.price_from),
                "price_to": shown(card.price_to),
                "sold_out": card.sold_out,
            }
            for card in cards
        ]
    }


def run_facets(given: dict[str, Any]) -> Any:
    filters, selected = given["filters"], given["selected"]
    cards = [
        FacetCard(
            {name: card.get(name) or () for name in filters},
            {name: Decimal(value) for name, value in card.items() if isinstance(value, str)},
        )
        for card in given["cards"]
    ]
    ranges = {
        name: Bounds(*[Decimal(chosen[end]) if chosen.get(end) is not None else None for end in ("min", "max")])
        for name, chosen in selected.items()
        if isinstance(chosen, dict)
    }
    values = {name: chosen for name, chosen in selected.items() if isinstance(chosen, list)}
    found = count(cards, filters, Selected(values, ranges))
    return {"listed": [given["cards"][index]["id"] for index in found.listed], "counts": found.values}


def run_layout(given: dict[str, Any]) -> Any:
    found = resolve_layout(given["layouts"], given["ask"])
    regions = [{"id": name, "blocks": [dict(block) for block in blocks]} for name, blocks in found.regions]
    return {"regions": regions, "lost": found.lost}


def run_merge(given: dict[str, Any]) -> Any:
    return merge(given["base"], given["mine"], given["theirs"], given.get("keyed"))._asdict()


def run_conditions(given: dict[str, Any]) -> Any:
    return {"holds": holds(given["condition"], given["values"], given["kinds"])}


def run_sku(given: dict[str, Any]) -> Any:
    return {"sku": make_sku(given["base"], given["policy"], given["parts"], given["separator"])}


def run_swatches(given: dict[str, Any]) -> Any:
    if "pair" not in given:
        return asdict(swatches.standing(given["colours"], given["background"]))
    first, second = given["pair"]
    apart = swatches.difference(first, second)
    answer = {"alike": swatches.alike(first, second, given.get("threshold", swatches.THRESHOLD))}
    return answer if apart is None else {**answer, "difference": swatches.shown(apart)}


def run_variants(given: dict[str, Any]) -> Any:
    axes = [Axis(option["key"], tuple(option["values"])) for option in given["options"]]
    rules = given.get("left_out", ())
    found = {"count": count_combinations(axes, rules), "combinations": list(combine(axes, rules))}
    if "existing" not in given:
        return found
    existing = [ExistingVariant(row["id"], row["values"], row.get("stock")) for row in given["existing"]]
    matched = reconcile(axes, rules, existing)
    return {
        **found,
        "kept": [{"id": variant.id, "values": values} for variant, values in matched.kept],
        "retired": [{"id": variant.id, "stock": variant.stock} for variant in matched.retired],
        "added": list(matched.added),
    }


RULES = {
    "cascade": run_cascade,
    "completeness": run_completeness,
    "conditions": run_conditions,
    "facets": run_facets,
    "fan_out": run_fan_out,
    "layout": run_layout,
    "merge": run_merge,
    "phrases": run_phrases,
    "price": run_price,
    "sku": run_sku,
    "swatches": run_swatches,
    "unit_price": run_unit_price,
    "values": run_values,
    "variants": run_variants,
}


def cases() -> list[Any]:
    out = []
    for path in sorted(FOLDER.glob("*.json")):
        for case in json.loads(path.read_text(encoding="utf-8")):
            out.append(pytest.param(path.stem, case, id=f"{path.stem}: {case['name']}"))
    return out


@pytest.mark.parametrize(("rule", "case"), cases())
def test_vector(rule: str, case: dict[str, Any]) -> None:
    assert rule in RULES, f"{rule}.json is in {FOLDER}, and no rule is run for it"
    expect = case["expect"]
    if "error" in expect:
        with pytest.raises(Refusal) as caught:
            RULES[rule](case["given"])
        assert caught.value.code == expect["error"]
    else:
        assert RULES[rule](case["given"]) == expect


def test_the_folder_has_cases_for_every_rule() -> None:
    found = {param.values[0] for param in cases()}
    assert found, f"no vectors in {FOLDER}"
    if "FABRIC_VECTORS" not in os.environ:
        assert found == RULES.keys()

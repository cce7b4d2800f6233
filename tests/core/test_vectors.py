"""Every case of every rule file in the folder FABRIC_VECTORS names (default tests/vectors)."""

from __future__ import annotations

import json
import os
from dataclasses import asdict
from decimal import Decimal
from pathlib import Path
from typing import Any

import pytest

from young_fabric.core.completeness import Wanted, completeness
from young_fabric.core.display import Cascade, Chain, DisplaySetting, Scope
from young_fabric.core.errors import Refusal
from young_fabric.core.kinds import Limits, Spec
from young_fabric.core.phrases import read_phrase
from young_fabric.core.pricing import Effect, price, unit_price
from young_fabric.core.value_lists import ListValue, ValueList
from young_fabric.core.values import read_value

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
    return {name: {"value": one.value, "from": one.origin} for name, one in found.items()}


def run_completeness(given: dict[str, Any]) -> Any:
    fields = [Wanted(f["key"], f["need"], f.get("applies", True)) for f in given["fields"]]
    found = asdict(completeness(fields, given["state"]))
    return {name: list(value) if isinstance(value, tuple) else value for name, value in found.items()}


def run_phrases(given: dict[str, Any]) -> Any:
    return {"text": read_phrase(given["phrase"], given["known"]).fill(given["values"], given["fallback"])}


def run_price(given: dict[str, Any]) -> Any:
    effects = [Effect(e["option"], e["mode"], Decimal(e["value"]), e.get("charge", "each")) for e in given["effects"]]
    found = asdict(price(given["currency"], Decimal(given["base"]), given["quantity"], effects))
    return {**found, "lines": list(found["lines"])}


def run_unit_price(given: dict[str, Any]) -> Any:
    def pair(one: dict[str, Any] | None) -> tuple[Decimal, str]:
        return (Decimal(one.get("amount") or 0), one.get("unit") or "") if one else (Decimal(0), "")

    contents = given.get("contents")
    count = Decimal(str((contents or {}).get("count", 1)))
    found = unit_price(Decimal(given["price"]), given["currency"], count, pair(contents), pair(given.get("reference")))
    return {"amount": found.amount, "label": found.label}


def run_values(given: dict[str, Any]) -> Any:
    choices = tuple(ListValue(c["code"], c["label"], tuple(c.get("synonyms", ()))) for c in given.get("choices", ()))
    spec = Spec(
        Limits(**given.get("limits", {})), given.get("unit"), ValueList("given", "Given", choices), given["locale"]
    )
    return {"value": read_value(given["kind"], given["text"], spec)}


RULES = {
    "cascade": run_cascade,
    "completeness": run_completeness,
    "phrases": run_phrases,
    "price": run_price,
    "unit_price": run_unit_price,
    "values": run_values,
}


def cases() -> list[Any]:
    out = []
    for path in sorted(FOLDER.glob("*.json")):
        if path.stem in RULES:
            for case in json.loads(path.read_text(encoding="utf-8")):
                out.append(pytest.param(path.stem, case, id=f"{path.stem}: {case['name']}"))
    return out


@pytest.mark.parametrize(("rule", "case"), cases())
def test_vector(rule: str, case: dict[str, Any]) -> None:
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

"""What a shopper still can choose: which values go with what is chosen, and why others do not."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass
from typing import Any, Literal

from young_fabric.core.base.errors import Refusal
from young_fabric.core.options.goods import Goods
from young_fabric.core.options.left import combinations_of, is_sold_out, value_left
from young_fabric.core.options.offers import Given
from young_fabric.core.options.quote import SOLD_OUT, left_out_words, not_made

State = Literal["offered", "sold_out", "left_out"]


@dataclass(frozen=True, slots=True)
class ValueState:
    """Whether a value goes with what is chosen of the other options, and why not, None where it does."""

    state: State
    why: Refusal | None = None

    @property
    def words(self) -> str:
        """Why not, in plain words."""
        return self.why.message if self.why is not None else ""


OFFERED = ValueState("offered")


def value_states(goods: Goods, given: Mapping[str, Given]) -> dict[str, dict[str, ValueState]]:
    """Option → code → how each value stands to what is chosen of the others; of all options whose values are chosen.

    A value goes with a choice when some combination has it and all that is chosen of the other options.
    """
    axes = goods.offer.axes
    chosen: list[Any] = [given[axis.key].value if axis.key in given else None for axis in axes]
    met: list[dict[str, bool]] = [{} for _ in axes]
    for names in combinations_of(goods):
        misses = [at for at, code in enumerate(names) if chosen[at] is not None and chosen[at] != code]
        if len(misses) > 1:
            continue
        left = not is_sold_out(goods, names)
        for at in misses or range(len(axes)):
            met[at][names[at]] = met[at].get(names[at], False) or left
    out: dict[str, dict[str, ValueState]] = {}
    for at, axis in enumerate(axes):
        out[axis.key] = {code: _state(goods, at, code, met[at].get(code), chosen) for code in axis.values}
    for key, offered in goods.offer.fewer.items():
        if offered.rules.chooses:
            out[key] = {value.code: _of_request(goods, key, value.code) for value in offered.values}
    return out


def _state(goods: Goods, at: int, code: str, left: bool | None, chosen: list[Any]) -> ValueState:
    axes = goods.offer.axes
    if left and value_left(goods, axes[at].key, code):
        return OFFERED
    if left is not None:
        return ValueState("sold_out", SOLD_OUT)
    whole = {axis.key: (code if index == at else chosen[index]) for index, axis in enumerate(axes)}
    others = [
        goods.offer.by_key[key].label(value)
        for key, value in whole.items()
        if value is not None and key != axes[at].key
    ]
    if None not in whole.values():
        try:
            return ValueState("left_out", left_out_words(goods.offer, whole))
        except StopIteration:
            pass
    label = goods.offer.by_key[axes[at].key].label(code)
    return ValueState("left_out", not_made(label, others))


def _of_request(goods: Goods, key: str, code: str) -> ValueState:
    return OFFERED if value_left(goods, key, code) else ValueState("sold_out", SOLD_OUT)

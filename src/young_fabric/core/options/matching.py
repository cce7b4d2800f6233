"""A product's variants put in step with what it offers: which stay, come, go and come back, where each stands, and its SKU."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass, replace
from functools import cached_property

from young_fabric.core.base.errors import Refusal
from young_fabric.core.nouns.fields.built_in import CODE
from young_fabric.core.options.combinations import Combination, ExistingVariant, combine, reconcile
from young_fabric.core.options.goods import Names
from young_fabric.core.options.offers import Offer
from young_fabric.core.options.quote import variant_sku
from young_fabric.core.subjects.variants import Variant


@dataclass(frozen=True)
class MatchedVariants:
    """What becomes of a product's variants: all as they stand afterwards, new ones with id 0, and what each was before."""

    kept: tuple[tuple[Variant, Variant], ...] = ()
    back: tuple[tuple[Variant, Variant], ...] = ()
    retired: tuple[tuple[Variant, Variant], ...] = ()
    added: tuple[Variant, ...] = ()

    @property
    def changed(self) -> list[tuple[Variant, Variant]]:
        """Those stored that are otherwise now, each as it was and as it is."""
        return [(old, new) for old, new in (*self.kept, *self.back, *self.retired) if old != new]

    @property
    def offered(self) -> list[Variant]:
        """Those that are offered, in order."""
        found = [*(new for _, new in (*self.kept, *self.back)), *self.added]
        return sorted(found, key=lambda variant: variant.position)


class Matcher:
    """The combinations of one offer, made once for all products that have it. Raises Refusal `too_many`."""

    def __init__(self, offer: Offer) -> None:
        self.offer = offer
        self.combinations: tuple[Combination, ...] = tuple(combine(offer.axes, offer.left_out))
        self._parts: dict[str, dict[Names, str | None]] = {}

    @cached_property
    def _positions(self) -> Mapping[Names, int]:
        return {tuple(found.values()): index for index, found in enumerate(self.combinations)}

    def match(self, product: int, base_sku: str, variants: Sequence[Variant]) -> MatchedVariants:
        """Put a product's variants, in order of position, in step."""
        by_id = {variant.id: variant for variant in variants}
        existing = [
            ExistingVariant(variant.id, variant.choices, variant.stock, variant.retired) for variant in variants
        ]
        found = reconcile(self.offer.axes, self.offer.left_out, existing, self.combinations)

        def standing(pairs: Sequence[tuple[ExistingVariant, Combination]]) -> tuple[tuple[Variant, Variant], ...]:
            return tuple((by_id[item.id], self._standing(by_id[item.id], choices, base_sku)) for item, choices in pairs)

        retired = tuple((by_id[item.id], replace(by_id[item.id], retired=True, sku=None)) for item in found.retired)
        added = (self._standing(Variant(0, product, 0, choices), choices, base_sku) for choices in found.added)
        return MatchedVariants(standing(found.kept), standing(found.back), retired, tuple(added))

    def _standing(self, variant: Variant, choices: Combination, base_sku: str) -> Variant:
        names = tuple(choices.values())
        sku = self._sku(variant, names, base_sku)
        position = self._positions[names]
        return Variant(
            variant.id,
            variant.product,
            position,
            choices,
            variant.values,
            variant.unread,
            sku,
            False,
            variant.version,
            variant.stock,
        )

    def with_sku(self, variant: Variant, base_sku: str) -> Variant:
        """A variant with its own SKU, or the one made of its parts; None where that is the product's."""
        names = tuple(variant.choices.get(axis.key, "") for axis in self.offer.axes)
        return replace(variant, sku=self._sku(variant, names, base_sku))

    def _sku(self, variant: Variant, names: Names, base_sku: str) -> str | None:
        own = variant.values.get(CODE.key)
        sku = str(own) if own else self.generated(base_sku, names) if names in self._positions else variant.sku
        return None if sku == base_sku else sku

    @property
    def makes_skus(self) -> bool:
        """Whether its variants have SKUs of their own unless the SKU stays the product's."""
        return any(rule.makes_variants and rule.policy != "keep" for rule in self.offer.skus)

    def generated(self, base_sku: str, names: Names) -> str | None:
        """The SKU made of the parts of values, None where it would be too long."""
        made = self._parts.setdefault(base_sku, {})
        if len(self._parts) > 1:
            self._parts = {base_sku: made}
        if names not in made:
            made[names] = self._made(base_sku, names)
        return made[names]

    def _made(self, base_sku: str, names: Names) -> str | None:
        chosen = {
            axis.key: self.offer.by_key[axis.key].plain[code].parts
            for axis, code in zip(self.offer.axes, names, strict=True)
        }
        try:
            return variant_sku(self.offer, base_sku, chosen) or None
        except Refusal:
            return None


def settle_skus(wanted: Sequence[Variant], taken: Mapping[str, int]) -> tuple[list[Variant], list[Variant]]:
    """Variants with SKUs that nobody else has, and those that lost theirs. `taken` is SKU → id of the variant that has it, or 0.

    Of two that want one the first has it; whoever has it already keeps it.
    """
    claimed: dict[str, int] = {}
    for index, variant in enumerate(wanted):
        if variant.sku is not None and taken.get(variant.sku, -1) == variant.id and variant.id:
            claimed[variant.sku] = index
    settled, clashing = [], []
    for index, variant in enumerate(wanted):
        sku = variant.sku
        if sku is None or claimed.get(sku) == index or (sku not in claimed and sku not in taken):
            if sku is not None:
                claimed[sku] = index
            settled.append(variant)
        else:
            settled.append(replace(variant, sku=None))
            clashing.append(variant)
    return settled, clashing

"""Plans of one set of definitions, and what a change of a definition reaches."""

from __future__ import annotations

from young_fabric.core.definitions import Definitions, Product
from young_fabric.core.display import SURFACES, DisplaySetting
from young_fabric.core.hashes import content_hash
from young_fabric.core.resolve import Plan, compile_plan


class Plans:
    """Plans of one set of definitions, each compiled when first asked for."""

    def __init__(self, defs: Definitions) -> None:
        self.defs = defs
        self._plans: dict[tuple[str, str], Plan] = {}

    def of_type(self, type_key: str, surface: str) -> Plan:
        """The plan of a type on a surface."""
        place = (type_key, surface)
        if place not in self._plans:
            self._plans[place] = compile_plan(self.defs, type_key, surface)
        return self._plans[place]

    def of_product(self, product: Product, surface: str, own_settings: tuple[DisplaySetting, ...]) -> Plan:
        """The plan for one product, with the settings said for it alone."""
        if not own_settings:
            return self.of_type(product.type, surface)
        return compile_plan(self.defs, product.type, surface, str(product.id), own_settings)

    def type_hash(self, type_key: str) -> str:
        """One hash over all surfaces of a type."""
        return content_hash([self.of_type(type_key, surface).hash for surface in SURFACES])


def reached_types(plans: Plans, noun: str, key: str) -> frozenset[str]:
    """The types whose pages read a thing."""
    if noun == "setting":
        scope = key.split("/", 1)[0]
        if scope.startswith("product:"):
            return frozenset()
        if scope.startswith("type:"):
            wanted = scope.partition(":")[2]
            return frozenset(t for t in plans.defs.types if wanted in plans.defs.chain(t))
        return frozenset(plans.defs.types)
    return frozenset(t for t in plans.defs.types if (noun, key) in plans.of_type(t, "product_page").reads)


def changed_types(before: Plans, after: Plans) -> dict[str, frozenset[str]]:
    """Surface → types that render differently after than before."""
    out = {}
    for surface in SURFACES:
        both = before.defs.types.keys() & after.defs.types.keys()
        out[surface] = frozenset(t for t in both if before.of_type(t, surface).hash != after.of_type(t, surface).hash)
    return out

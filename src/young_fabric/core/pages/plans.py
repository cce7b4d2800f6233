"""Plans of one set of definitions, kept by what they were made from, and what a change of a definition reaches."""

from __future__ import annotations

from collections.abc import Collection, Hashable, Iterable, Mapping, Sequence

from young_fabric.core.base.hashes import content_hash
from young_fabric.core.base.memory import Memory
from young_fabric.core.definitions.definitions import Definitions
from young_fabric.core.definitions.groups import Group
from young_fabric.core.display.cascade import DisplaySetting
from young_fabric.core.display.surfaces import RECORDS, product_surfaces, record_surface
from young_fabric.core.pages.entries import EntryBudget
from young_fabric.core.pages.plan import Plan, Reads, compile_plan
from young_fabric.core.subjects.products import Product

MOST_PLANS = 3_000
Counts = Mapping[Group, int]
"""Products of each group."""


class PlanCache(Memory[Hashable, Plan]):
    """Plans by name, group and surface, as long as what they were made from stands. Any may go when there are too many: a pass over
    more groups than fit finds most of them again at the next."""

    def __init__(self, most: int = MOST_PLANS, budget: EntryBudget | None = None) -> None:
        super().__init__(most, at_random=True)
        self.budget = budget or EntryBudget()
        self.most = most


class Plans:
    """Plans of one set of definitions, each compiled when first asked for.

    `cache` holds plans of earlier definitions under `name`; `kept` says whether new ones are put there.
    """

    def __init__(
        self, defs: Definitions, cache: PlanCache | None = None, name: Hashable = "", *, kept: bool = True
    ) -> None:
        self.defs = defs
        self._cache, self._name, self._kept = cache if cache is not None else PlanCache(), name, kept
        self._plans: dict[tuple[Group, str], Plan] = {}
        self._reads: dict[Group, Reads] = {}
        self._own: dict[Group, Group] = {}

    def of_group(self, group: Group, surface: str) -> Plan:
        """The plan of a group on a surface; of its collections those count that say something here, in their order here."""
        own = self._own.get(group)
        if own is None:
            own = self._own[group] = self.defs.group_of(group.type, group.collections)
        return self._of_own(own, surface)

    def _of_own(self, group: Group, surface: str) -> Plan:
        found = self._plans.get((group, surface))
        if found is None:
            key = (self._name, group, surface)
            found = self._cache.get(key)
            if found is None or not self._stands(group, found.reads):
                found = compile_plan(self.defs, group, surface, (), self._cache.budget, self._reads.get(group))
                self._reads[group] = found.reads
                if self._kept:
                    self._cache.put(key, found)
            if len(self._plans) >= self._cache.most:
                self._plans.clear()
            self._plans[group, surface] = found
        return found

    def _stands(self, group: Group, reads: Reads) -> bool:
        """Whether what a plan was made from is so still; plans of a group share it, so that it is compared once."""
        if reads is self._reads.get(group):
            return True
        if not reads.hold(self.defs):
            return False
        self._reads[group] = reads
        return True

    def of_type(self, type_key: str, surface: str) -> Plan:
        """The plan of products of a type that are in no collection that says something."""
        return self.of_group(Group(type_key), surface)

    def of_records(self, record_type: str) -> Plan:
        """The plan of the pages of records of a type."""
        group, surface = Group(record_type, of=RECORDS), record_surface().code
        found = self._plans.get((group, surface))
        if found is None:
            found = compile_plan(self.defs, group, surface, (), self._cache.budget)
            self._plans[group, surface] = found
        return found

    def of_product(self, product: Product, surface: str, own_settings: Sequence[DisplaySetting] = ()) -> Plan:
        """The plan for one product, with the settings said for it alone."""
        if not own_settings:
            return self.of_group(Group(product.type, product.collections), surface)
        group = self.defs.group_of(product.type, product.collections)
        return compile_plan(self.defs, group._replace(product=str(product.id)), surface, own_settings)

    def group_hash(self, group: Group) -> str:
        """One hash over all surfaces of a group, and where its products are listed."""
        chain = list(self.defs.chain(group.type))
        alike = sorted({effective.field.key for effective in self.defs.applicable(group)} & self.defs.alike)
        return content_hash(
            [[*chain, *alike], {surface: self.of_group(group, surface).hash for surface in product_surfaces()}]
        )

    def having(self, noun: str, key: str, thing: object | None) -> Plans:
        """Plans as they would be with one thing put in, or taken out when None."""
        return self.having_all([(noun, key, thing)])

    def having_all(self, changed: Iterable[tuple[str, str, object | None]]) -> Plans:
        """The same with several: (noun, key, thing)."""
        return Plans(self.defs.having_all(changed), self._cache, self._name, kept=False)

    def there(self, groups: Iterable[Group]) -> list[Group]:
        """Those of some groups whose type there is."""
        return [group for group in groups if group.type in self.defs.types]


def reached_groups(plans: Plans, groups: Iterable[Group], noun: str, key: str) -> frozenset[Group]:
    """The groups whose pages read a thing."""
    surface = next(iter(product_surfaces()))
    return frozenset(
        group for group in plans.there(groups) if (noun, key) in plans.of_group(group, surface).reads.marks
    )


def changed_record_types(before: Plans, after: Plans) -> frozenset[str]:
    """The record types whose pages are laid out otherwise after than before."""
    both = before.defs.things["record_type"].keys() & after.defs.things["record_type"].keys()
    return frozenset(key for key in both if before.of_records(key).hash != after.of_records(key).hash)


def changed_groups(
    before: Plans, after: Plans, groups: Iterable[Group], surfaces: Collection[str] | None = None
) -> dict[str, frozenset[Group]]:
    """Surface → groups that render differently after than before, those listed elsewhere too; only some `surfaces` may, where these
    are given."""
    both = [group for group in before.there(groups) if group.type in after.defs.types]
    moved = {group for group in both if before.defs.chain(group.type) != after.defs.chain(group.type)}
    out: dict[str, frozenset[Group]] = {}
    for code, surface in product_surfaces().items():
        if surfaces is not None and code not in surfaces:
            out[code] = frozenset()
            continue
        listed = moved if surface.listed or surface.addressed else set()
        differ = {group for group in both if before.of_group(group, code).hash != after.of_group(group, code).hash}
        out[code] = frozenset(differ | listed)
    return out

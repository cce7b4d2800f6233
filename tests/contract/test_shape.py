"""One mechanism for each sort of thing: nothing outside the registries asks for a thing by its code."""

from __future__ import annotations

import ast
import re
from collections.abc import Iterator
from pathlib import Path

from young_fabric.core.display.blocks import BLOCK_KINDS
from young_fabric.core.display.properties import PROPERTIES
from young_fabric.core.display.surfaces import SURFACES
from young_fabric.core.kinds import KINDS
from young_fabric.core.nouns.fields.built_in import BUILT_IN
from young_fabric.core.nouns.layouts.built_in_layouts import BUILT_IN_LAYOUTS
from young_fabric.core.nouns.registry import NOUNS
from young_fabric.core.pages.blocks import RENDERERS
from young_fabric.core.subjects.registry import SUBJECTS
from young_fabric.service.checking.checks import CHECKS
from young_fabric.service.long_work.job_kinds import JOB_KINDS

ROOT = Path(__file__).parents[2]
WORDS_OF_OUTCOMES = {"shown", "empty", "wrong", "required", "unused"}
"""Codes that are words of something else too: of steps, of outcomes, of needs."""
CODES = {
    code
    for registry in (KINDS, NOUNS, SURFACES, PROPERTIES, JOB_KINDS, BLOCK_KINDS, BUILT_IN, SUBJECTS, CHECKS)
    for code in registry
} - WORDS_OF_OUTCOMES
DECLARED = re.compile(r"""Literal\[([^\]]*)\]|(?:type \w+ =|:)\s*\|?\s*((?:"[a-z_]+"\s*\|\s*)+"[a-z_]+")""")
ASKS = re.compile(
    r"""(?:[!=]==?|\bin)\s*[\[({]?\s*(?:["'][a-z_]+["'],\s*)*["'](?P<right>[a-z_]+)["']"""
    r"""|["'](?P<left>[a-z_]+)["']\s*(?:[!=]==?)|\bcase\s+["'](?P<case>[a-z_]+)["']"""
)


WALKS = re.compile(r"for \w+(?:, \w+)* i\Z")
"""A walk over members, which is no question."""


def sources() -> Iterator[tuple[Path, str]]:
    own = ROOT / "src/young_fabric"
    for path in [*own.rglob("*.py"), *(own / "web/shop/templates").rglob("*.html")]:
        if "migrations" not in path.parts and "demo" not in path.parts:
            yield path, path.read_text()
    studio = ROOT / "frontend/studio"
    for path in [*studio.rglob("*.ts"), *studio.rglob("*.tsx")]:
        if ".test." not in path.name and path.name not in ("testing.tsx", "schema.d.ts"):
            yield path, path.read_text()


def words_of_its_own(source: str) -> set[str]:
    """Words that a source declares as states or outcomes of its own, by a type of a few words: asking for one there asks for no code."""
    found = (match[1] or match[2] for match in DECLARED.finditer(source))
    return {word for words in found for word in re.findall(r"[\"']([a-z_]+)[\"']", words)}


def test_a_word_of_a_state_is_no_code() -> None:
    texts = ('State = Literal["good", "saving"]', 'type Now = "idle" | "price";', "how: str = 'price'")
    assert [words_of_its_own(text) for text in texts] == [{"good", "saving"}, {"idle", "price"}, set()]


def test_nothing_asks_for_a_kind_noun_surface_property_block_check_or_job_by_its_code() -> None:
    found = [
        f"{path.relative_to(ROOT)}: {match[0]}"
        for path, source in sources()
        for codes in [CODES - words_of_its_own(source)]
        for match in ASKS.finditer(source)
        if codes & {match["right"], match["left"], match["case"]}
        if not WALKS.search(source[max(0, match.start() - 60) : match.start() + 1])
    ]
    assert found == []


COMPARISONS = "src/young_fabric/core/base/conditions.py"
"""Keyed by the ways to compare that kinds name, some of which are called as a kind is."""


def tables_by_code(source: str) -> list[int]:
    """Lines of dictionaries all of whose keys are codes of one registry."""
    registries = (KINDS, NOUNS, SURFACES, PROPERTIES, JOB_KINDS, BLOCK_KINDS, CHECKS)
    found = []
    for node in ast.walk(ast.parse(source)):
        if isinstance(node, ast.Dict) and len(node.keys) > 1:
            keys = {key.value if isinstance(key, ast.Constant) else None for key in node.keys}
            if any(keys <= registry.keys() for registry in registries):
                found.append(node.lineno)
    return found


def test_no_dictionary_is_keyed_by_codes_but_the_registries() -> None:
    found = [
        f"{path.relative_to(ROOT)}:{line}"
        for path, source in sources()
        if path.suffix == ".py" and str(path.relative_to(ROOT)) != COMPARISONS
        for line in tables_by_code(source)
    ]
    assert found == []
    assert tables_by_code('WIDTHS = {"text": 1, "measure": 2}') == [1]


def test_the_search_for_codes_finds_them() -> None:
    for source in ('if kind == "measure":', "kind in ('text', 'long_text')", '"price" === key', 'case "picture":'):
        match = ASKS.search(source)
        assert match, source
        assert CODES & {match["right"], match["left"], match["case"]}, source


def test_every_kind_has_an_editor_and_every_control_its_own() -> None:
    studio = ROOT / "frontend/studio"
    editors = set(
        re.findall(
            r'code: "([a-z_]+)"|(?:typed|link|reference)Kind\(\s*"([a-z_]+)"',
            "\n".join(path.read_text() for path in (studio / "kinds").glob("*.tsx")),
        )
    )
    named = {code or other for code, other in editors}
    assert {kind.code for kind in KINDS.values() if kind.own_fields} <= named
    options = (studio / "controls/options.tsx").read_text()
    properties = (studio / "controls/properties.tsx").read_text()
    limits = (studio / "controls/LimitsEditor.tsx").read_text()
    for kind in KINDS.values():
        for option in kind.options:
            assert re.search(rf"^  {option.control}: ", options, re.MULTILINE), option.control
        for limit in kind.limits:
            assert re.search(rf"^  {limit.control}: ", limits, re.MULTILINE), limit.control
    for prop in PROPERTIES.values():
        assert prop.whole or re.search(rf"^  {prop.control}: ", properties, re.MULTILINE), prop.control
    members = (studio / "features/present/layouts/controls.tsx").read_text()
    for block in BLOCK_KINDS.values():
        for member in block.all_members():
            assert re.search(rf"^  {member.control}: ", members, re.MULTILINE), member.control


def test_every_block_and_every_shown_node_has_its_partial() -> None:
    from young_fabric.core.kinds.shown import NODES

    templates = ROOT / "src/young_fabric/web/shop/templates"
    for folder, codes in (("blocks", BLOCK_KINDS), ("shown", NODES)):
        assert {path.stem for path in (templates / folder).glob("*.html")} == set(codes)
    assert {path.stem for path in (templates / "cards").glob("*.html")} < set(BLOCK_KINDS)
    assert RENDERERS.keys() == BLOCK_KINDS.keys()
    assert {surface.layout for surface in SURFACES.values()} == BUILT_IN_LAYOUTS.keys()


def test_every_order_of_a_comparison_can_be_asked_of_the_store() -> None:
    from young_fabric.core.base.conditions import COMPARISONS as COMPARED
    from young_fabric.store.repos.members import ORDERS

    assert {comparison.order for comparison in COMPARED.values()} == ORDERS.keys()

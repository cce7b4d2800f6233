"""Products side by side: rows in the order of who has them first, the same told from what differs."""

from __future__ import annotations

from young_fabric.core.kinds.shown import Text
from young_fabric.core.listing.comparing import compare
from young_fabric.core.pages.document import Entry, RenderDoc, ShownBlock, ShownRegion


def doc(number: int, **texts: str) -> RenderDoc:
    entries = tuple(Entry(key, key.title(), "beside", Text(text), text, ()) for key, text in texts.items())
    blocks = (ShownBlock("top", "title"), ShownBlock("all", "fields", entries=entries))
    return RenderDoc("compare", number, ShownRegion("main", blocks))


def test_rows_stand_in_the_order_of_who_has_them_first() -> None:
    found = compare([doc(1, wood="Oak", height="2 m", made="here"), doc(2, wood="Oak", folds="yes", height="1 m")])
    assert [(row.field, row.label) for row in found.rows] == [
        ("wood", "Wood"),
        ("folds", "Folds"),
        ("height", "Height"),
        ("made", "Made"),
    ]
    assert [[cell.text if cell else None for cell in row.cells] for row in found.rows] == [
        ["Oak", "Oak"],
        [None, "yes"],
        ["2 m", "1 m"],
        ["here", None],
    ]
    assert [row.same for row in found.rows] == [True, False, False, False]


def test_what_stands_in_no_row_stands_above() -> None:
    found = compare([doc(1, wood="Oak"), doc(2)])
    assert [[block.id for block in head.blocks] for head in found.heads] == [["top"], ["top"]]
    assert [head.id for head in found.heads] == ["main", "main"]


def test_a_product_by_itself_is_the_same_as_itself() -> None:
    assert [row.same for row in compare([doc(1, wood="Oak")]).rows] == [True]
    assert compare([doc(1)]).rows == ()

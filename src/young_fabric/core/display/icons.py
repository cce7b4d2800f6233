"""A small set of icons that stand beside titles, each drawn in strokes on a field of 24 by 24."""

from __future__ import annotations

from collections.abc import Mapping
from typing import NamedTuple


class Icon(NamedTuple):
    """An icon: its code, what it shows, and the path of its strokes (SVG 2, path data)."""

    code: str
    name: str
    path: str


ICONS: Mapping[str, Icon] = {
    icon.code: icon
    for icon in (
        Icon("water", "a drop", "M12 3c3.4 4.3 6 7.4 6 11a6 6 0 0 1-12 0c0-3.6 2.6-6.7 6-11z"),
        Icon(
            "sun",
            "the sun",
            "M12 8a4 4 0 1 1 0 8 4 4 0 0 1 0-8zM12 2v2M12 20v2M2 12h2M20 12h2M5 5l1.4 1.4M17.6 17.6 19 19M19 5l-1.4 1.4M6.4 17.6 5 19",
        ),
        Icon("leaf", "a leaf", "M5 19C5 10 10 5 20 4c0 10-5 15-12 15-1 0-2-.2-3-.6M5 19c2-5 5-8 10-10"),
        Icon(
            "flame",
            "a flame",
            "M12 3c1 4 5 5.5 5 10.5A5 5 0 0 1 7 14c0-2 1-3.4 2-4.5.4 1.4 1 2 2 2.5C11 9 10.6 6 12 3z",
        ),
        Icon("warning", "a warning", "M12 4 21 20H3zM12 10v5M12 17.5v.5"),
        Icon(
            "hand",
            "a hand",
            "M7 12V7a1.5 1.5 0 0 1 3 0v4-6a1.5 1.5 0 0 1 3 0v6-5a1.5 1.5 0 0 1 3 0v7l1.5-2a1.5 1.5 0 0 1 2.5 1.6L17 18c-1 1.8-2.6 3-5 3-3.5 0-5-2.4-5-6z",
        ),
        Icon("brush", "a brush", "M20 4 11 13M12.5 14.5l-3-3c-3 .5-3.5 3-4.5 6-.2.6-.5 1-1 1.5 4 .5 8-.5 8.5-4.5z"),
        Icon("box", "a box", "M4 8l8-4 8 4v9l-8 4-8-4zM4 8l8 4 8-4M12 12v9"),
        Icon("clock", "a clock", "M12 3a9 9 0 1 1 0 18 9 9 0 0 1 0-18zM12 7v5l3.5 2"),
        Icon("shield", "a shield", "M12 3l7 3v5c0 5-3 8-7 10-4-2-7-5-7-10V6zM9 12l2 2 4-4"),
        Icon(
            "star", "a star", "M12 4l2.4 5.200 5.6.7-4.200 3.900 1.100 5.6L12 16.6l-4.900 2.8 1.100-5.6L4 9.900l5.6-.7z"
        ),
        Icon("note", "a note", "M6 3h9l4 4v14H6zM15 3v4h4M9 12h7M9 16h7"),
    )
}
"""Every icon by its code, in the order offered."""

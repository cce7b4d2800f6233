"""Saltmarsh Studio Supply: its products. Names, makers and places are made up; some gaps and faults are left in on purpose."""

from __future__ import annotations

from dataclasses import dataclass, field
from typing import Any


@dataclass(frozen=True)
class Goods:
    """One product: what is drawn (sort and colour), and its values as someone would type them."""

    type: str
    title: str
    sku: str
    price: str
    draw: tuple[str, str]
    contents: str = ""
    stock: int | None = None
    values: dict[str, Any] = field(default_factory=dict)


_WATERCOLOURS = [
    ("Lemon Light", "LML", "9.80", "#f2d338", "PY175", "I", "Semi-transparent", "no", 14),
    ("Weld Yellow", "WLD", "11.00", "#e9a32c", "PY83, PY65", "II", "Transparent", "no", 9),
    ("Barley Ochre", "BLO", "8.40", "#c08a3a", "PY43", "I", "Semi-opaque", "yes", 22),
    ("Flare Orange", "FLO", "9.80", "#e05a2b", "PO73", "II", "Semi-transparent", "no", 3),
    ("Saltpan Red", "SPR", "10.60", "#c62631", "PR254", "I", "Semi-opaque", "no", 17),
    ("Madder Quay", "MDQ", "12.40", "#8e1f45", "PR179", "I", "Transparent", "no", 8),
    ("Heather Violet", "HTV", "12.40", "#5d2c7d", "PV23", "II", "Transparent", "no", 0),
    ("Ultramarine Deep", "ULD", "9.80", "#20309a", "PB29", "I", "Transparent", "yes", 31),
    ("French Blue", "FRB", "9.80", "#1d5fae", "PB15:3", "I", "Transparent", "no", 12),
    ("Tidal Turquoise", "TDT", "11.80", "#1b93b5", "PB16", "I", "Transparent", "no", 6),
    ("Fen Green", "FNG", "9.80", "#3d7f35", "PG7, PY150", "I", "Transparent", "no", 19),
    ("Samphire", "SMP", "10.60", "#8a8f2e", "PG36, PY154", "I", "Semi-transparent", "yes", 4),
    ("Peat", "PEA", "8.40", "#46312a", "PBr7", "I", "Semi-transparent", "yes", 25),
    ("Slate Grey", "SLG", "8.40", "#5c646e", "PBk11, PB29", "I", "Semi-transparent", "yes", 13),
]
_LIGHT = {"I": "I, excellent", "II": "II, very good", "III": "III, fair", "IV": "IV, fugitive"}


def _paints() -> list[Goods]:
    out = []
    for name, code, price, colour, pigment, light, opacity, granulates, stock in _WATERCOLOURS:
        codes = [one.strip() for one in pigment.split(",")]
        values: dict[str, Any] = {
            "pigment": codes,
            "lightfast": _LIGHT[light],
            "opacity": opacity,
            "granul": granulates,
            "staining": "Stains" if light == "I" and granulates == "no" else "Lifts partly",
            "binder": "Gum arabic, honey",
            "series": "Series 2" if float(price) > 10 else "Series 1",
            "hue": colour,
            "maker": "Saltmarsh Colour Works",
            "made_in": "Ostrey, East Fen",
            "maker_since": "1894",
            "warn": "Keep away from food. Rinse brushes outdoors.",
            "store": "Cap tightly, store above 5 °C.",
            "marks": "Keep from children" if light == "II" else "Safe for children over 3",
            "batch": "2026-08-14",
            "description": f"{name} is ground twice in gum arabic with a little honey, so that it wets again at a touch. "
            f"{'It settles in the hollows of rough paper.' if granulates == 'yes' else 'It lies even in a wash.'}",
        }
        out.append(
            Goods(
                "watercolour",
                f"{name}, artist watercolour",
                f"SAW-{code}-15",
                price,
                ("tube", colour),
                "15 ml",
                stock,
                values,
            )
        )
    gouaches = [
        ("Brick", "BRK", "#b24d2d", "PR101", 8),
        ("Moss", "MOS", "#a5b48d", "PG17, PW6", 0),
        ("Chalk White", "CHW", "#f4f2ec", "PW6", 40),
        ("Harbour Blue", "HBB", "#33679a", "PB28", 12),
        ("Rosehip", "RSH", "#c9474c", "PR188", 7),
        ("Lamp Black", "LMB", "#26262b", "PBk6", 18),
        ("Straw", "STR", "#e3c46d", "PY42", 5),
        ("Plum", "PLM", "#5e2a4e", "PV19", 11),
    ]
    for name, code, colour, pigment, stock in gouaches:
        out.append(
            Goods(
                "gouache",
                f"Ebb Gouache {name}",
                f"EBG-{code}-30",
                "6.40",
                ("pot", colour),
                "30 ml",
                stock,
                {
                    "pigment": [one.strip() for one in pigment.split(",")],
                    "lightfast": _LIGHT["II" if name in ("Rosehip", "Plum") else "I"],
                    "opacity": "Opaque",
                    "granul": "no",
                    "binder": "Gum arabic, chalk",
                    "hue": colour,
                    "maker": "Ebb & Daughter",
                    "made_in": "Port Callan",
                    "marks": "Safe for children over 3",
                    "store": "Close the lid; a damp cloth revives it.",
                    "description": f"A flat, velvet {name.lower()} that covers in one coat and can be lifted with a wet brush.",
                },
            )
        )
    oils = [
        ("Titan White", "TTW", "#f6f4ee", "PW6", "13.90"),
        ("Warm Umber", "WUM", "#5b4230", "PBr7", "12.20"),
        ("Estuary Blue", "ESB", "#234e7c", "PB60", "18.50"),
        ("Kelp Green", "KLP", "#3c5a35", "PG23", "12.20"),
        ("Rust Earth", "RSE", "#9a4a26", "PR102", "12.20"),
        ("Cadmium-free Sun", "CFS", "#f0b51f", "PY184", "19.80"),
    ]
    for name, code, colour, pigment, price in oils:
        out.append(
            Goods(
                "oil",
                f"Longshore Oil {name}",
                f"LSO-{code}-37",
                price,
                ("tube", colour),
                "37 ml",
                10,
                {
                    "pigment": [pigment],
                    "lightfast": _LIGHT["I"],
                    "opacity": "Semi-opaque",
                    "granul": "no",
                    "binder": "Cold-pressed linseed oil",
                    "maker": "Longshore Oils",
                    "made_in": "Callan Head",
                    "density": "1.62",
                    "warn": "Rags soaked in oil can catch fire: dry them flat.",
                    "marks": "Solvent free",
                    "hue": colour,
                    "description": f"{name} in the old buttery grind, milled three times in linseed oil.",
                },
            )
        )
    return out


_PAPERS: list[tuple[str, str, str, str, str, str, str, dict[str, Any]]] = [
    (
        "watercolour_paper",
        "Tideline Cold-Press 300",
        "TLC-300",
        "4.10",
        "#efece4",
        "0.4256 m²",
        "Cold press",
        {"paper_weight": "300", "sizing": "Both", "suits": "Watercolour, Gouache, Ink", "deckle": "2"},
    ),
    (
        "watercolour_paper",
        "Tideline Hot-Press 300",
        "TLH-300",
        "4.10",
        "#f3f1ec",
        "0.4256 m²",
        "Hot press",
        {"paper_weight": "300", "sizing": "Both", "suits": "Watercolour, Ink, Pencil", "deckle": "2"},
    ),
    (
        "watercolour_paper",
        "Tideline Rough 640",
        "TLR-640",
        "9.60",
        "#ebe7db",
        "0.4256 m²",
        "Rough",
        {"paper_weight": "640", "sizing": "Internal", "suits": "Watercolour", "deckle": "4"},
    ),
    (
        "watercolour_paper",
        "Saltpan Block 20 leaves",
        "SPB-20",
        "26.50",
        "#f1eee2",
        "20 x 0.0713 m²",
        "Cold press",
        {"paper_weight": "0.3 kg/m²", "sizing": "Surface", "suits": "Watercolour, Gouache"},
    ),
    (
        "watercolour_paper",
        "Tideline Board 850",
        "TLB-850",
        "12.80",
        "#dcd5c6",
        "0.4256 m²",
        "Cold press",
        {"paper_weight": "850", "suits": "Watercolour, Gouache"},
    ),
    (
        "printmaking_paper",
        "Fen Etching 300",
        "FE-300",
        "6.40",
        "#f4f1e6",
        "0.4256 m²",
        "Smooth",
        {
            "paper_weight": "300",
            "suits": "Etching, Relief print",
            "dampening": "Soak 10 minutes, blot between felts. Do not stack wet.",
            "pressure": "12 kg",
        },
    ),
    (
        "printmaking_paper",
        "Fen Etching 250 Buff",
        "FE-250B",
        "5.90",
        "#e6dcc0",
        "0.4256 m²",
        "Smooth",
        {
            "paper_weight": "250",
            "sizing": "Surface",
            "suits": "Etching",
            "dampening": "Mist both sides and stack overnight.",
            "pressure": "260 kPa",
        },
    ),
    (
        "printmaking_paper",
        "Gosling Relief 90",
        "GSL-90",
        "2.20",
        "#f7f5ef",
        "0.35 m²",
        "Smooth",
        {"paper_weight": "90", "sizing": "None", "suits": "Relief print", "pressure": "45 kPa"},
    ),
    (
        "printmaking_paper",
        "Gosling Screen 220",
        "GSL-220",
        "3.10",
        "#fbfaf7",
        "0.5 m²",
        "Hot press",
        {
            "paper_weight": "220",
            "sizing": "Internal",
            "suits": "Screen print",
            "dampening": "Print dry.",
            "pressure": "15 kPa",
        },
    ),
    (
        "drawing_paper",
        "Nightjar Black 160",
        "NJB-160",
        "1.90",
        "#2b2b30",
        "0.35 m²",
        "Smooth",
        {"paper_weight": "160", "suits": "Pencil, Gouache"},
    ),
    (
        "drawing_paper",
        "Barley Kraft Roll",
        "BKR-90",
        "21.00",
        "#c9ab7d",
        "10 m²",
        "Laid",
        {"paper_weight": "90", "sizing": "Internal", "suits": "Charcoal, Ink"},
    ),
    (
        "drawing_paper",
        "Plover Cartridge 200",
        "PLC-200",
        "1.20",
        "#f6f4ec",
        "0.35 m²",
        "Smooth",
        {"paper_weight": "200", "sizing": "Surface", "suits": "Pencil, Ink, Charcoal"},
    ),
    (
        "drawing_paper",
        "Plover Ingres 100",
        "PLI-100",
        "1.60",
        "#d9cfb9",
        "0.35 m²",
        "Laid",
        {"paper_weight": "100", "sizing": "Surface", "suits": "Charcoal"},
    ),
    (
        "drawing_paper",
        "Plover Grey Sugar 120",
        "PGS-120",
        "0.95",
        "#9aa0a3",
        "0.35 m²",
        "",
        {"paper_weight": "120", "sizing": "Internal"},
    ),
]


def _papers() -> list[Goods]:
    out = []
    for kind, title, sku, price, colour, contents, surface, more in _PAPERS:
        sheet = "sheet" if "Roll" not in title else "roll"
        out.append(
            Goods(
                kind,
                title,
                sku,
                price,
                (sheet, colour),
                contents,
                60,
                {
                    "sheet_width": "560",
                    "sheet_height": "760" if sheet == "sheet" else "10 m",
                    "surface": surface,
                    "fibre": "Cotton 100 %" if "Tideline" in title or "Fen" in title else "Cellulose",
                    "acid_free": "yes" if "Kraft" not in title and "Sugar" not in title else "no",
                    "maker": "Fen Mill" if "Fen" in title or "Tideline" in title else "Gosling & Plover",
                    "made_in": "Ostrey, East Fen",
                    "maker_since": "1871",
                    "description": f"{title.split()[0]} is made in short runs on a cylinder mould, so that each sheet keeps its own edge and takes a second wash.",
                    **more,
                },
            )
        )
    return out


def _brushes() -> list[Goods]:
    rows = [
        ("Heron Round 4", "HRN-R4", "8.90", "#7b2e2e", "Sable blend", "Round", "4", "3.2", 12),
        ("Heron Round 8", "HRN-R8", "14.20", "#7b2e2e", "Sable blend", "Round", "8", "5.1", 7),
        ("Heron Round 12", "HRN-R12", "24.90", "#7b2e2e", "Sable blend", "Round", "12", "8", 2),
        ("Curlew Mop 6", "CRL-M6", "19.50", "#2d4a3e", "Goat", "Mop", "6", "14", 9),
        ("Avocet Flat 10", "AVC-F10", "7.40", "#27476e", "Synthetic, firm", "Flat", "10", "12", 15),
        ("Avocet Filbert 6", "AVC-B6", "6.80", "#27476e", "Synthetic, firm", "Filbert", "6", "7.5", 0),
        ("Sanderling Rigger 2", "SND-L2", "5.60", "#b5852f", "Synthetic, soft", "Rigger", "2", "1.4", 21),
        ("Gannet Hog Fan 8", "GNT-N8", "9.30", "#3a3a40", "Hog bristle", "Fan", "8", "", 4),
    ]
    return [
        Goods(
            "brushes",
            title,
            sku,
            price,
            ("brush", colour),
            "",
            stock,
            {
                "hair": hair,
                "shape": shape,
                "number": number,
                "belly": f"{belly} mm" if belly else "",
                "handle": "180 mm" if shape != "Mop" else "150 mm",
                "ferrule": "Seamless nickel",
                "maker": "Marsh & Reed",
                "made_in": "Reedham Bank",
                "maker_since": "1920",
                "description": f"A {shape.lower()} with a belly that holds water and a point that comes back.",
            },
        )
        for title, sku, price, colour, hair, shape, number, belly, stock in rows
    ]


def _rest() -> list[Goods]:
    books = [
        ("Driftline Sketchbook Slate", "DLS-SLT", "14.50", "#5c6570", "Slate cloth", "64", "Sewn", 13),
        ("Driftline Sketchbook Rust", "DLS-RST", "14.50", "#a4532d", "Rust cloth", "64", "Sewn", 6),
        ("Driftline Sketchbook Moss", "DLS-MOS", "14.50", "#65754a", "Moss cloth", "64", "Sewn", 9),
        ("Wader Field Book", "WFB-A6", "9.20", "#8c8f92", "Grey board", "48", "Stab sewn", 20),
        ("Saltings Spiral Pad", "SSP-A4", "11.90", "#d8d2c3", "Grey board", "40", "Spiral", 33),
        ("Limpet Pocket Book", "LPB-A7", "6.50", "#c3a76c", "", "", "Sewn", 8),
    ]
    out = [
        Goods(
            "sketchbooks",
            title,
            sku,
            price,
            ("book", colour),
            "",
            stock,
            {
                "cover": cover,
                "leaves": leaves,
                "binding": binding,
                "elastic": "yes" if "Driftline" in title else "no",
                "paper_weight": "150",
                "maker": "Driftline Bindery",
                "made_in": "Port Callan",
                "description": "Opens flat, takes a light wash, and closes with a quiet snap.",
            },
        )
        for title, sku, price, colour, cover, leaves, binding, stock in books
    ]
    easels = [
        ("Estuary Easel", "EST-EAS", "148.00", "#c99a63", "Oiled beech", "120 cm", "6.4", 3),
        ("Jetty Table Easel", "JTY-TAB", "62.00", "#d6b184", "Ash", "60 cm", "2.1", 11),
        ("Groyne Studio Easel", "GRY-STU", "389.00", "#8a6238", "Elm", "2.3 m", "24.5", 1),
        ("Sandbar Field Easel", "SBR-FLD", "118.00", "#dfc08f", "Pine", "85 cm", "", 5),
    ]
    out += [
        Goods(
            "easels",
            title,
            sku,
            price,
            ("easel", colour),
            "",
            stock,
            {
                "wood": wood,
                "holds": holds,
                "weighs": weighs,
                "folds": "no" if "Studio" in title else "yes",
                "maker": "Callan Joinery",
                "made_in": "Callan Head",
                "assembly": "Unfold the legs until they click.\n\nSet the ledge with the two brass knobs; no tools are needed.",
                "description": "Made of one tree, jointed without a single screw in sight.",
            },
        )
        for title, sku, price, colour, wood, holds, weighs, stock in easels
    ]
    canvases = [
        (
            "Spinnaker Linen Canvas 50 × 70",
            "SPN-5070",
            "34.00",
            "#d8ccb2",
            "Medium linen",
            "White gesso",
            "18",
            "500",
            "700",
        ),
        (
            "Spinnaker Linen Canvas 80 × 100",
            "SPN-80100",
            "58.00",
            "#d8ccb2",
            "Fine linen",
            "Clear size",
            "38",
            "800",
            "1000",
        ),
        (
            "Dinghy Cotton Canvas 30 × 40",
            "DNG-3040",
            "9.90",
            "#efe9dc",
            "Cotton duck",
            "White gesso",
            "18",
            "300",
            "400",
        ),
        ("Smack Jute Canvas 60 × 60", "SMK-6060", "27.00", "#b89a6a", "Jute", "", "38", "600", "600"),
    ]
    out += [
        Goods(
            "canvas",
            title,
            sku,
            price,
            ("canvas", colour),
            f"{int(w) * int(h) / 1000000} m²",
            8,
            {
                "weave": weave,
                "ground": ground,
                "bar_depth": depth,
                "sheet_width": w,
                "sheet_height": h,
                "suits": "Gouache",
                "description": "Stretched by hand on keyed bars, with folded corners that lie flat in a frame.",
            },
        )
        for title, sku, price, colour, weave, ground, depth, w, h in canvases
    ]
    return out


def goods() -> list[Goods]:
    """Every product, in the order it was entered."""
    return [*_paints(), *_papers(), *_brushes(), *_rest()]

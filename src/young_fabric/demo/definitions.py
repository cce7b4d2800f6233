"""Saltmarsh Studio Supply: its fields, value lists, sets, types and display settings. All of it is made up."""

from __future__ import annotations

from typing import Any

PREFIX = "ss_"

LISTS: dict[str, tuple[str, list[str]]] = {
    "lightfastness": ("Lightfastness", ["I, excellent", "II, very good", "III, fair", "IV, fugitive"]),
    "opacity": ("Opacity", ["Transparent", "Semi-transparent", "Semi-opaque", "Opaque"]),
    "staining": ("Staining", ["Lifts easily", "Lifts partly", "Stains"]),
    "series": ("Price series", ["Series 1", "Series 2", "Series 3", "Series 4"]),
    "surface": ("Paper surface", ["Hot press", "Cold press;cp;NOT, fine grain", "Rough", "Smooth", "Laid"]),
    "sizing": ("Sizing", ["None", "Surface", "Internal", "Both"]),
    "suits": (
        "Suits",
        ["Watercolour", "Gouache", "Ink", "Pencil", "Charcoal", "Etching", "Relief print", "Screen print"],
    ),
    "hair": ("Hair", ["Sable blend", "Goat", "Hog bristle", "Synthetic, soft", "Synthetic, firm"]),
    "brush-shape": ("Brush shape", ["Round", "Flat", "Filbert", "Rigger", "Mop", "Fan"]),
    "binding": ("Binding", ["Sewn", "Spiral", "Glued pad", "Stab sewn"]),
    "cover": ("Cover", ["Slate cloth", "Rust cloth", "Moss cloth", "Grey board", "Waxed paper"]),
    "wood": ("Wood", ["Oiled beech", "Ash", "Elm", "Pine"]),
    "weave": ("Canvas weave", ["Fine linen", "Medium linen", "Cotton duck", "Jute"]),
    "ground": ("Ground", ["Raw", "Clear size", "White gesso", "Toned gesso"]),
    "standards": (
        "Safety marks",
        ["Safe for children over 3", "Keep from children", "Contains cadmium-free hues", "Solvent free"],
    ),
}

Row = tuple[str, str, str, dict[str, Any]]

FIELDS: list[Row] = [
    (
        "pigment",
        "Pigment codes",
        "text",
        {
            "many": True,
            "limits": {"pattern": "P[A-Za-z]+[0-9]+(:[0-9])?", "max_count": 4},
            "example": "PB29",
            "help": "As on the maker's colour card, one code each",
        },
    ),
    ("lightfast", "Lightfastness", "one_of", {"list": "lightfastness", "help": "From the maker's own test"}),
    ("opacity", "Opacity", "one_of", {"list": "opacity"}),
    ("granul", "Granulating", "yes_no", {"help": "Does it settle in the hollows of the paper?"}),
    ("staining", "Staining", "one_of", {"list": "staining"}),
    ("binder", "Binder", "text", {"example": "Gum arabic, honey", "limits": {"max_length": 80}}),
    ("series", "Price series", "one_of", {"list": "series", "audience": "staff"}),
    ("hue", "Hue", "colour", {"help": "Picked from a dry wash on white", "example": "#27476e", "audience": "feeds"}),
    ("swatch_card", "Swatch card", "picture", {"many": True, "limits": {"max_count": 3}}),
    ("warn", "Warnings", "long_text", {"limits": {"max_length": 400}, "example": "Keep away from food."}),
    ("store", "Storage", "long_text", {"limits": {"max_length": 300}}),
    ("marks", "Safety marks", "many_of", {"list": "standards", "limits": {"max_count": 3}}),
    (
        "paper_weight",
        "Paper weight",
        "measure",
        {
            "label": "Weight",
            "unit": "g/m²",
            "limits": {"min": "60", "max": "850", "decimals": 0},
            "example": "300",
            "help": "From the mill sheet, not the cover",
        },
    ),
    ("sheet_width", "Sheet width", "measure", {"unit": "mm", "limits": {"min": "50", "max": "3000"}, "example": "560"}),
    (
        "sheet_height",
        "Sheet height",
        "measure",
        {"unit": "mm", "limits": {"min": "50", "max": "20000"}, "example": "760"},
    ),
    ("fibre", "Fibre", "text", {"example": "Cotton 100 %"}),
    ("surface", "Surface", "one_of", {"list": "surface"}),
    ("sizing", "Sizing", "one_of", {"list": "sizing", "help": "Ask the mill when the sheet does not say"}),
    (
        "suits",
        "Suits",
        "many_of",
        {"list": "suits", "help": "Tick what you would use it for yourself", "need": "wanted"},
    ),
    ("acid_free", "Acid free", "yes_no", {}),
    ("deckle", "Deckle edges", "whole", {"limits": {"min": "0", "max": "4"}, "help": "How many of the four edges"}),
    (
        "dampening",
        "Dampening",
        "long_text",
        {"limits": {"max_length": 300}, "example": "Soak ten minutes, blot between felts."},
    ),
    (
        "pressure",
        "Press pressure",
        "measure",
        {"unit": "kPa", "limits": {"min": "10", "max": "900"}, "example": "40 kPa"},
    ),
    ("hair", "Hair", "one_of", {"list": "hair"}),
    ("shape", "Brush shape", "one_of", {"list": "brush-shape", "label": "Shape"}),
    ("number", "Brush number", "whole", {"label": "Number", "limits": {"min": "0", "max": "40"}}),
    ("handle", "Handle length", "measure", {"unit": "mm", "limits": {"min": "40", "max": "500"}}),
    ("belly", "Belly width", "measure", {"unit": "mm", "limits": {"max": "80", "decimals": 1}}),
    ("ferrule", "Ferrule", "text", {"example": "Seamless nickel", "limits": {"max_length": 60}}),
    ("cover", "Cover", "one_of", {"list": "cover"}),
    ("leaves", "Leaves", "whole", {"limits": {"min": "4", "max": "400"}}),
    ("binding", "Binding", "one_of", {"list": "binding"}),
    ("elastic", "Elastic band", "yes_no", {}),
    ("wood", "Wood", "one_of", {"list": "wood"}),
    (
        "holds",
        "Holds up to",
        "measure",
        {"unit": "cm", "limits": {"min": "20", "max": "300"}, "help": "Height of the largest canvas"},
    ),
    ("weighs", "Weighs", "measure", {"unit": "kg", "limits": {"min": "0.1", "max": "60", "decimals": 1}}),
    ("folds", "Folds flat", "yes_no", {}),
    ("assembly", "Assembly", "long_text", {"limits": {"max_length": 600}}),
    ("weave", "Weave", "one_of", {"list": "weave"}),
    ("ground", "Ground", "one_of", {"list": "ground"}),
    ("bar_depth", "Bar depth", "measure", {"unit": "mm", "limits": {"min": "10", "max": "80"}}),
    ("maker", "Maker", "text", {"limits": {"max_length": 60}}),
    ("made_in", "Made in", "text", {"limits": {"max_length": 60}}),
    ("maker_since", "Maker since", "whole", {"limits": {"min": "1600", "max": "2026"}}),
    ("batch", "Batch date", "date", {"audience": "staff", "help": "From the box label"}),
    (
        "density",
        "Wet density",
        "decimal",
        {
            "limits": {"min": "0.5", "max": "5", "decimals": 2},
            "audience": "staff",
            "help": "Grams to the millilitre, for posting",
        },
    ),
    ("old_note", "Old stock note", "text", {"audience": "staff", "help": "No longer used"}),
]

SETS: dict[str, tuple[str, list[tuple[str, list[str]]]]] = {
    "paint_basics": (
        "Paint basics",
        [
            ("Colour", ["pigment", "lightfast", "opacity", "granul", "staining"]),
            ("Making", ["binder", "series", "hue", "swatch_card"]),
        ],
    ),
    "safety": ("Safety and care", [("Safety and care", ["warn", "store", "marks"])]),
    "paper_basics": (
        "Paper basics",
        [
            ("Sheet", ["paper_weight", "sheet_width", "sheet_height", "deckle"]),
            ("Make-up", ["fibre", "surface", "sizing", "acid_free", "suits"]),
        ],
    ),
    "printmaking": ("Printmaking", [("Printmaking", ["dampening", "pressure"])]),
    "brush_basics": ("Brush basics", [("Brush basics", ["hair", "shape", "number", "belly", "handle", "ferrule"])]),
    "books": ("Book make-up", [("Book make-up", ["cover", "leaves", "binding", "elastic", "paper_weight"])]),
    "furniture": ("Easel basics", [("Easel basics", ["wood", "holds", "weighs", "folds", "assembly"])]),
    "canvas_basics": (
        "Canvas basics",
        [("Canvas basics", ["weave", "ground", "bar_depth", "sheet_width", "sheet_height"])],
    ),
    "origin": ("Origin", [("Origin", ["maker", "made_in", "maker_since"])]),
}

TYPES: list[tuple[str, str, str | None, dict[str, Any]]] = [
    (
        "paint",
        "Paint",
        None,
        {
            "sets": ["paint_basics", "safety", "origin"],
            "fields": ["batch"],
            "needs": {"pigment": "required", "lightfast": "required", "contents": "required"},
        },
    ),
    ("watercolour", "Watercolour", "paint", {"needs": {"granul": "wanted", "opacity": "required"}}),
    ("gouache", "Gouache", "paint", {"needs": {"opacity": "wanted"}}),
    ("oil", "Oil colour", "paint", {"fields": ["density"]}),
    (
        "paper",
        "Paper",
        None,
        {
            "sets": ["paper_basics", "origin"],
            "needs": {"paper_weight": "required", "surface": "required", "acid_free": "wanted", "sizing": "required"},
        },
    ),
    ("watercolour_paper", "Watercolour paper", "paper", {"needs": {"sizing": "required"}}),
    (
        "printmaking_paper",
        "Printmaking paper",
        "paper",
        {"sets": ["printmaking"], "needs": {"dampening": "required", "pressure": "wanted"}},
    ),
    ("drawing_paper", "Drawing paper", "paper", {}),
    (
        "brushes",
        "Brushes",
        None,
        {"sets": ["brush_basics", "origin"], "needs": {"hair": "required", "shape": "required", "number": "required"}},
    ),
    (
        "sketchbooks",
        "Sketchbooks",
        None,
        {"sets": ["books", "origin"], "needs": {"cover": "required", "leaves": "required"}},
    ),
    ("easels", "Easels", None, {"sets": ["furniture", "origin"], "needs": {"wood": "required", "holds": "required"}}),
    ("canvas", "Canvas", None, {"sets": ["canvas_basics"], "fields": ["suits"], "needs": {"weave": "required"}}),
]

SETTINGS: list[tuple[str, str, str, dict[str, Any]]] = [
    ("type:paint", "lightfast", "listing_card", {"shown": True, "label": "beside"}),
    ("type:paint", "contents", "product_page", {"shown": True}),
    ("type:watercolour", "granul", "product_page", {"label_text": "Granulates"}),
    ("type:oil", "granul", "product_page", {"shown": False}),
    ("type:paper", "paper_weight", "listing_card", {"shown": True}),
    ("type:paper", "sizing", "product_page", {"empty": "dash"}),
    ("type:brushes", "number", "listing_card", {"shown": True}),
    ("type:sketchbooks", "leaves", "listing_card", {"shown": True}),
    ("shop", "maker_since", "product_page", {"shown": False}),
    ("shop", "maker", "listing_card", {"shown": True, "label": "hidden"}),
]

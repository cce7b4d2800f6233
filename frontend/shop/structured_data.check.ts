// Made by tests/demo/test_structured_data.py: one product of each type of the demo, as its page says it to machines.
import type { Product, WithContext } from "schema-dts";

export const documents = [
  {
    "@context": "https://schema.org",
    "@type": "Product",
    "url": "https://saltmarsh.example/shop/p/lemon-light-artist-watercolour",
    "name": "Lemon Light, artist watercolour",
    "sku": "SAW-LML-15",
    "offers": {
      "@type": "Offer",
      "price": "9.8",
      "priceCurrency": "EUR",
      "url": "https://saltmarsh.example/shop/p/lemon-light-artist-watercolour",
      "availability": "https://schema.org/InStock",
      "priceSpecification": {
        "@type": "UnitPriceSpecification",
        "price": "65.33",
        "priceCurrency": "EUR",
        "referenceQuantity": {
          "@type": "QuantitativeValue",
          "value": "100",
          "unitCode": "MLT",
          "unitText": "ml"
        }
      }
    },
    "description": "Lemon Light is ground twice in gum arabic with a little honey, so that it wets again at a touch. It lies even in a wash.",
    "manufacturer": {
      "@type": "Organization",
      "name": "saltmarsh_colour_works"
    },
    "subjectOf": {
      "@type": "VideoObject",
      "name": "A wash, from wet to dry",
      "url": "https://films.saltmarsh.example/w/wash"
    },
    "aggregateRating": {
      "@type": "AggregateRating",
      "ratingValue": "4.6",
      "bestRating": "5",
      "ratingCount": 18
    },
    "additionalProperty": [
      {
        "@type": "PropertyValue",
        "name": "Pigment codes",
        "value": "PY175"
      },
      {
        "@type": "PropertyValue",
        "name": "Lightfastness",
        "value": "I, excellent"
      },
      {
        "@type": "PropertyValue",
        "name": "Opacity",
        "value": "Semi-transparent"
      },
      {
        "@type": "PropertyValue",
        "name": "Granulating",
        "value": false
      },
      {
        "@type": "PropertyValue",
        "name": "Staining",
        "value": "Stains"
      },
      {
        "@type": "PropertyValue",
        "name": "Binder",
        "value": "Gum arabic, honey"
      },
      {
        "@type": "PropertyValue",
        "name": "Hue",
        "value": "#f2d338"
      },
      {
        "@type": "PropertyValue",
        "name": "Warnings",
        "value": "Keep away from food. Rinse brushes outdoors."
      },
      {
        "@type": "PropertyValue",
        "name": "Storage",
        "value": "Cap tightly, store above 5 °C."
      },
      {
        "@type": "PropertyValue",
        "name": "Safety marks",
        "value": "Safe for children over 3"
      },
      {
        "@type": "PropertyValue",
        "name": "Made in",
        "value": "Ostrey, East Fen"
      },
      {
        "@type": "PropertyValue",
        "name": "Maker since",
        "value": "1894"
      },
      {
        "@type": "PropertyValue",
        "name": "Care of colour",
        "value": "Cap it before the wind turns: sand in the thread never comes out."
      },
      {
        "@type": "PropertyValue",
        "name": "Safety sheet",
        "value": "https://saltmarsh.example/downloads/1eac902f01766311cf60dd3787d655bc6b3d04d0eb6022617f221223f39161a5"
      },
      {
        "@type": "PropertyValue",
        "name": "Out of doors",
        "value": "Cap it before the wind turns"
      }
    ]
  },
  {
    "@context": "https://schema.org",
    "@type": "Product",
    "url": "https://saltmarsh.example/shop/p/ebb-gouache-brick",
    "name": "Ebb Gouache Brick",
    "sku": "EBG-BRK-30",
    "offers": {
      "@type": "Offer",
      "price": "6.4",
      "priceCurrency": "EUR",
      "url": "https://saltmarsh.example/shop/p/ebb-gouache-brick",
      "availability": "https://schema.org/InStock",
      "priceSpecification": {
        "@type": "UnitPriceSpecification",
        "price": "21.33",
        "priceCurrency": "EUR",
        "referenceQuantity": {
          "@type": "QuantitativeValue",
          "value": "100",
          "unitCode": "MLT",
          "unitText": "ml"
        }
      }
    },
    "description": "A flat, velvet brick that covers in one coat and can be lifted with a wet brush.",
    "manufacturer": {
      "@type": "Organization",
      "name": "ebb_daughter"
    },
    "additionalProperty": [
      {
        "@type": "PropertyValue",
        "name": "Pigment codes",
        "value": "PR101"
      },
      {
        "@type": "PropertyValue",
        "name": "Lightfastness",
        "value": "I, excellent"
      },
      {
        "@type": "PropertyValue",
        "name": "Opacity",
        "value": "Opaque"
      },
      {
        "@type": "PropertyValue",
        "name": "Granulating",
        "value": false
      },
      {
        "@type": "PropertyValue",
        "name": "Binder",
        "value": "Gum arabic, chalk"
      },
      {
        "@type": "PropertyValue",
        "name": "Hue",
        "value": "#b24d2d"
      },
      {
        "@type": "PropertyValue",
        "name": "Storage",
        "value": "Close the lid; a damp cloth revives it."
      },
      {
        "@type": "PropertyValue",
        "name": "Safety marks",
        "value": "Safe for children over 3"
      },
      {
        "@type": "PropertyValue",
        "name": "Made in",
        "value": "Port Callan"
      },
      {
        "@type": "PropertyValue",
        "name": "Care of colour",
        "value": "Cap it at once, keep it out of the sun, and it is good for ten years."
      }
    ]
  },
  {
    "@context": "https://schema.org",
    "@type": "Product",
    "url": "https://saltmarsh.example/shop/p/longshore-oil-titan-white",
    "name": "Longshore Oil Titan White",
    "sku": "LSO-TTW-37",
    "offers": {
      "@type": "Offer",
      "price": "13.9",
      "priceCurrency": "EUR",
      "url": "https://saltmarsh.example/shop/p/longshore-oil-titan-white",
      "availability": "https://schema.org/InStock",
      "priceSpecification": {
        "@type": "UnitPriceSpecification",
        "price": "37.57",
        "priceCurrency": "EUR",
        "referenceQuantity": {
          "@type": "QuantitativeValue",
          "value": "100",
          "unitCode": "MLT",
          "unitText": "ml"
        }
      }
    },
    "description": "Titan White in the old buttery grind, milled three times in linseed oil.",
    "manufacturer": {
      "@type": "Organization",
      "name": "longshore_oils"
    },
    "additionalProperty": [
      {
        "@type": "PropertyValue",
        "name": "Pigment codes",
        "value": "PW6"
      },
      {
        "@type": "PropertyValue",
        "name": "Lightfastness",
        "value": "I, excellent"
      },
      {
        "@type": "PropertyValue",
        "name": "Opacity",
        "value": "Semi-opaque"
      },
      {
        "@type": "PropertyValue",
        "name": "Granulating",
        "value": false
      },
      {
        "@type": "PropertyValue",
        "name": "Binder",
        "value": "Cold-pressed linseed oil"
      },
      {
        "@type": "PropertyValue",
        "name": "Hue",
        "value": "#f6f4ee"
      },
      {
        "@type": "PropertyValue",
        "name": "Warnings",
        "value": "Rags soaked in oil can catch fire: dry them flat."
      },
      {
        "@type": "PropertyValue",
        "name": "Safety marks",
        "value": "Solvent free"
      },
      {
        "@type": "PropertyValue",
        "name": "Made in",
        "value": "Callan Head"
      },
      {
        "@type": "PropertyValue",
        "name": "Care of colour",
        "value": "Cap it at once, keep it out of the sun, and it is good for ten years."
      }
    ]
  },
  {
    "@context": "https://schema.org",
    "@type": "Product",
    "url": "https://saltmarsh.example/shop/p/tideline-cold-press-300",
    "name": "Tideline Cold-Press 300",
    "sku": "TLC-300",
    "offers": {
      "@type": "Offer",
      "price": "4.1",
      "priceCurrency": "EUR",
      "url": "https://saltmarsh.example/shop/p/tideline-cold-press-300",
      "availability": "https://schema.org/InStock",
      "priceSpecification": {
        "@type": "UnitPriceSpecification",
        "price": "9.63",
        "priceCurrency": "EUR",
        "referenceQuantity": {
          "@type": "QuantitativeValue",
          "value": "1",
          "unitCode": "MTK",
          "unitText": "m²"
        }
      }
    },
    "description": "Tideline is made in short runs on a cylinder mould, so that each sheet keeps its own edge and takes a second wash.",
    "width": {
      "@type": "QuantitativeValue",
      "value": "560",
      "unitCode": "MMT",
      "unitText": "mm"
    },
    "height": {
      "@type": "QuantitativeValue",
      "value": "760",
      "unitCode": "MMT",
      "unitText": "mm"
    },
    "material": "Cotton 100 %",
    "manufacturer": {
      "@type": "Organization",
      "name": "fen_mill"
    },
    "additionalProperty": [
      {
        "@type": "PropertyValue",
        "name": "Weight",
        "value": "300",
        "unitCode": "GM",
        "unitText": "g/m²"
      },
      {
        "@type": "PropertyValue",
        "name": "Deckle edges",
        "value": "2"
      },
      {
        "@type": "PropertyValue",
        "name": "Surface",
        "value": "Cold press"
      },
      {
        "@type": "PropertyValue",
        "name": "Sizing",
        "value": "Both"
      },
      {
        "@type": "PropertyValue",
        "name": "Acid free",
        "value": true
      },
      {
        "@type": "PropertyValue",
        "name": "Suits",
        "value": [
          "Watercolour",
          "Gouache",
          "Ink"
        ]
      },
      {
        "@type": "PropertyValue",
        "name": "Made in",
        "value": "Ostrey, East Fen"
      },
      {
        "@type": "PropertyValue",
        "name": "Maker since",
        "value": "1871"
      }
    ]
  },
  {
    "@context": "https://schema.org",
    "@type": "Product",
    "url": "https://saltmarsh.example/shop/p/fen-etching-300",
    "name": "Fen Etching 300",
    "sku": "FE-300",
    "offers": {
      "@type": "Offer",
      "price": "6.4",
      "priceCurrency": "EUR",
      "url": "https://saltmarsh.example/shop/p/fen-etching-300",
      "availability": "https://schema.org/InStock",
      "priceSpecification": {
        "@type": "UnitPriceSpecification",
        "price": "15.04",
        "priceCurrency": "EUR",
        "referenceQuantity": {
          "@type": "QuantitativeValue",
          "value": "1",
          "unitCode": "MTK",
          "unitText": "m²"
        }
      }
    },
    "description": "Fen is made in short runs on a cylinder mould, so that each sheet keeps its own edge and takes a second wash.",
    "width": {
      "@type": "QuantitativeValue",
      "value": "560",
      "unitCode": "MMT",
      "unitText": "mm"
    },
    "height": {
      "@type": "QuantitativeValue",
      "value": "760",
      "unitCode": "MMT",
      "unitText": "mm"
    },
    "material": "Cotton 100 %",
    "manufacturer": {
      "@type": "Organization",
      "name": "fen_mill"
    },
    "additionalProperty": [
      {
        "@type": "PropertyValue",
        "name": "Weight",
        "value": "300",
        "unitCode": "GM",
        "unitText": "g/m²"
      },
      {
        "@type": "PropertyValue",
        "name": "Surface",
        "value": "Smooth"
      },
      {
        "@type": "PropertyValue",
        "name": "Acid free",
        "value": true
      },
      {
        "@type": "PropertyValue",
        "name": "Suits",
        "value": [
          "Etching",
          "Relief print"
        ]
      },
      {
        "@type": "PropertyValue",
        "name": "Made in",
        "value": "Ostrey, East Fen"
      },
      {
        "@type": "PropertyValue",
        "name": "Maker since",
        "value": "1871"
      },
      {
        "@type": "PropertyValue",
        "name": "Dampening",
        "value": "Soak 10 minutes, blot between felts. Do not stack wet."
      }
    ]
  },
  {
    "@context": "https://schema.org",
    "@type": "Product",
    "url": "https://saltmarsh.example/shop/p/nightjar-black-160",
    "name": "Nightjar Black 160",
    "sku": "NJB-160",
    "offers": {
      "@type": "Offer",
      "price": "1.9",
      "priceCurrency": "EUR",
      "url": "https://saltmarsh.example/shop/p/nightjar-black-160",
      "availability": "https://schema.org/InStock",
      "priceSpecification": {
        "@type": "UnitPriceSpecification",
        "price": "5.43",
        "priceCurrency": "EUR",
        "referenceQuantity": {
          "@type": "QuantitativeValue",
          "value": "1",
          "unitCode": "MTK",
          "unitText": "m²"
        }
      }
    },
    "description": "Nightjar is made in short runs on a cylinder mould, so that each sheet keeps its own edge and takes a second wash.",
    "width": {
      "@type": "QuantitativeValue",
      "value": "560",
      "unitCode": "MMT",
      "unitText": "mm"
    },
    "height": {
      "@type": "QuantitativeValue",
      "value": "760",
      "unitCode": "MMT",
      "unitText": "mm"
    },
    "material": "Cellulose",
    "manufacturer": {
      "@type": "Organization",
      "name": "gosling_plover"
    },
    "additionalProperty": [
      {
        "@type": "PropertyValue",
        "name": "Weight",
        "value": "160",
        "unitCode": "GM",
        "unitText": "g/m²"
      },
      {
        "@type": "PropertyValue",
        "name": "Surface",
        "value": "Smooth"
      },
      {
        "@type": "PropertyValue",
        "name": "Acid free",
        "value": true
      },
      {
        "@type": "PropertyValue",
        "name": "Suits",
        "value": [
          "Pencil",
          "Gouache"
        ]
      },
      {
        "@type": "PropertyValue",
        "name": "Made in",
        "value": "Ostrey, East Fen"
      },
      {
        "@type": "PropertyValue",
        "name": "Maker since",
        "value": "1871"
      }
    ]
  },
  {
    "@context": "https://schema.org",
    "@type": "Product",
    "url": "https://saltmarsh.example/shop/p/heron-round-4",
    "name": "Heron Round 4",
    "sku": "HRN-R4",
    "offers": {
      "@type": "Offer",
      "price": "8.9",
      "priceCurrency": "EUR",
      "url": "https://saltmarsh.example/shop/p/heron-round-4",
      "availability": "https://schema.org/InStock"
    },
    "description": "A round with a belly that holds water and a point that comes back.",
    "manufacturer": {
      "@type": "Organization",
      "name": "marsh_reed"
    },
    "additionalProperty": [
      {
        "@type": "PropertyValue",
        "name": "Hair",
        "value": "Sable blend"
      },
      {
        "@type": "PropertyValue",
        "name": "Shape",
        "value": "Round"
      },
      {
        "@type": "PropertyValue",
        "name": "Number",
        "value": "4"
      },
      {
        "@type": "PropertyValue",
        "name": "Belly width",
        "value": "3.2",
        "unitCode": "MMT",
        "unitText": "mm"
      },
      {
        "@type": "PropertyValue",
        "name": "Handle length",
        "value": "180",
        "unitCode": "MMT",
        "unitText": "mm"
      },
      {
        "@type": "PropertyValue",
        "name": "Ferrule",
        "value": "Seamless nickel"
      },
      {
        "@type": "PropertyValue",
        "name": "Made in",
        "value": "Reedham Bank"
      },
      {
        "@type": "PropertyValue",
        "name": "Maker since",
        "value": "1920"
      },
      {
        "@type": "PropertyValue",
        "name": "Care of brushes",
        "value": "Rinse in cold water until it runs clear, shape the tip, and dry it lying flat.\nNever stand it on its hair.\nSoap once a week, with olive soap."
      }
    ]
  },
  {
    "@context": "https://schema.org",
    "@type": "Product",
    "url": "https://saltmarsh.example/shop/p/driftline-sketchbook-slate",
    "name": "Driftline Sketchbook Slate",
    "sku": "DLS-SLT",
    "offers": {
      "@type": "Offer",
      "price": "14.5",
      "priceCurrency": "EUR",
      "url": "https://saltmarsh.example/shop/p/driftline-sketchbook-slate",
      "availability": "https://schema.org/InStock"
    },
    "description": "Opens flat, takes a light wash, and closes with a quiet snap.",
    "manufacturer": {
      "@type": "Organization",
      "name": "driftline_bindery"
    },
    "additionalProperty": [
      {
        "@type": "PropertyValue",
        "name": "Cover",
        "value": "Slate cloth"
      },
      {
        "@type": "PropertyValue",
        "name": "Leaves",
        "value": "64"
      },
      {
        "@type": "PropertyValue",
        "name": "Binding",
        "value": "Sewn"
      },
      {
        "@type": "PropertyValue",
        "name": "Elastic band",
        "value": true
      },
      {
        "@type": "PropertyValue",
        "name": "Weight",
        "value": "150",
        "unitCode": "GM",
        "unitText": "g/m²"
      },
      {
        "@type": "PropertyValue",
        "name": "Made in",
        "value": "Port Callan"
      }
    ]
  },
  {
    "@context": "https://schema.org",
    "@type": "Product",
    "url": "https://saltmarsh.example/shop/p/estuary-easel",
    "name": "Estuary Easel",
    "sku": "EST-EAS",
    "offers": {
      "@type": "Offer",
      "price": "142",
      "priceCurrency": "EUR",
      "url": "https://saltmarsh.example/shop/p/estuary-easel",
      "availability": "https://schema.org/InStock"
    },
    "description": "Made of one tree, jointed without a single screw in sight.",
    "material": "Oiled beech",
    "weight": {
      "@type": "QuantitativeValue",
      "value": "6.4",
      "unitCode": "KGM",
      "unitText": "kg"
    },
    "manufacturer": {
      "@type": "Organization",
      "name": "callan_joinery"
    },
    "additionalProperty": [
      {
        "@type": "PropertyValue",
        "name": "Holds up to",
        "value": "120",
        "unitCode": "CMT",
        "unitText": "cm"
      },
      {
        "@type": "PropertyValue",
        "name": "Folds flat",
        "value": true
      },
      {
        "@type": "PropertyValue",
        "name": "Assembly",
        "value": "No tools are needed, and both feet must stand before anything hangs.\nUnfold the legs until they click.\nSet the ledge with the two brass knobs.\nTurn the mast clamp down on the canvas.\nSpare parts: the easel guide."
      },
      {
        "@type": "PropertyValue",
        "name": "Made in",
        "value": "Callan Head"
      }
    ]
  },
  {
    "@context": "https://schema.org",
    "@type": "Product",
    "url": "https://saltmarsh.example/shop/p/spinnaker-linen-canvas-50-70",
    "name": "Spinnaker Linen Canvas 50 × 70",
    "sku": "SPN-5070",
    "offers": {
      "@type": "Offer",
      "price": "34",
      "priceCurrency": "EUR",
      "url": "https://saltmarsh.example/shop/p/spinnaker-linen-canvas-50-70",
      "availability": "https://schema.org/InStock",
      "priceSpecification": {
        "@type": "UnitPriceSpecification",
        "price": "97.14",
        "priceCurrency": "EUR",
        "referenceQuantity": {
          "@type": "QuantitativeValue",
          "value": "1",
          "unitCode": "MTK",
          "unitText": "m²"
        }
      }
    },
    "description": "Stretched by hand on keyed bars, with folded corners that lie flat in a frame.",
    "width": {
      "@type": "QuantitativeValue",
      "value": "500",
      "unitCode": "MMT",
      "unitText": "mm"
    },
    "height": {
      "@type": "QuantitativeValue",
      "value": "700",
      "unitCode": "MMT",
      "unitText": "mm"
    },
    "additionalProperty": [
      {
        "@type": "PropertyValue",
        "name": "Weave",
        "value": "Medium linen"
      },
      {
        "@type": "PropertyValue",
        "name": "Ground",
        "value": "White gesso"
      },
      {
        "@type": "PropertyValue",
        "name": "Bar depth",
        "value": "18",
        "unitCode": "MMT",
        "unitText": "mm"
      },
      {
        "@type": "PropertyValue",
        "name": "How to care for it",
        "value": "https://guides.saltmarsh.example/canvas"
      },
      {
        "@type": "PropertyValue",
        "name": "Suits",
        "value": "Gouache"
      }
    ]
  },
  {
    "@context": "https://schema.org",
    "@type": "Product",
    "url": "https://saltmarsh.example/shop/p/saltmarsh-artist-watercolour-by-the-tube",
    "name": "Saltmarsh Artist Watercolour, by the tube",
    "sku": "SWT",
    "offers": {
      "@type": "Offer",
      "price": "9.8",
      "priceCurrency": "EUR",
      "url": "https://saltmarsh.example/shop/p/saltmarsh-artist-watercolour-by-the-tube",
      "availability": "https://schema.org/InStock",
      "priceSpecification": {
        "@type": "UnitPriceSpecification",
        "price": "65.33",
        "priceCurrency": "EUR",
        "referenceQuantity": {
          "@type": "QuantitativeValue",
          "value": "100",
          "unitCode": "MLT",
          "unitText": "ml"
        }
      }
    },
    "description": "All twenty-four colours of the artist range in three sizes of tube, from one page. Tell us a name and it is printed on the label.",
    "manufacturer": {
      "@type": "Organization",
      "name": "saltmarsh_colour_works"
    },
    "additionalProperty": [
      {
        "@type": "PropertyValue",
        "name": "Pigment codes",
        "value": [
          "PB29",
          "PY175"
        ]
      },
      {
        "@type": "PropertyValue",
        "name": "Lightfastness",
        "value": "I, excellent"
      },
      {
        "@type": "PropertyValue",
        "name": "Warnings",
        "value": "Keep away from food. Rinse brushes outdoors."
      },
      {
        "@type": "PropertyValue",
        "name": "Storage",
        "value": "Cap tightly, store above 5 °C."
      },
      {
        "@type": "PropertyValue",
        "name": "Safety marks",
        "value": "Safe for children over 3"
      },
      {
        "@type": "PropertyValue",
        "name": "Made in",
        "value": "Ostrey, East Fen"
      },
      {
        "@type": "PropertyValue",
        "name": "Care of colour",
        "value": "Cap it at once, keep it out of the sun, and it is good for ten years."
      }
    ]
  }
] as const satisfies readonly WithContext<Product>[];

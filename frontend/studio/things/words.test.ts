import { describe, expect, it } from "vitest";
import type { Schemas } from "../api/client";
import { placeOf } from "../api/nouns";
import { touchedWords } from "../considering/Consequences";
import { moveField } from "../features/compose/sets/SetsView";
import { kindWords } from "../features/define/fields/FieldRows";
import { ago } from "../state/saving";
import { META } from "../testing";
import { counted } from "../ui/basics";
import { moved } from "../ui/Sortable";

const sections = [
  { key: "a", name: "A", fields: ["x", "y"] },
  { key: "b", name: "B", fields: ["z"] },
];
const fieldsOf = (rows: typeof sections) => rows.map((section) => section.fields.join(""));

describe("moving", () => {
  it("keeps a list whole", () => {
    expect(moved(["a", "b", "c"], 0, 2)).toEqual(["b", "c", "a"]);
    expect(moved(["a", "b"], 1, 2)).toEqual(["a", "b"]);
    expect(moved(["a", "b"], 0, -1)).toEqual(["a", "b"]);
  });
  it("takes a field within a section, into the next one, and stops at the ends", () => {
    expect(fieldsOf(moveField(sections, [0, 0], 1))).toEqual(["yx", "z"]);
    expect(fieldsOf(moveField(sections, [0, 1], 1))).toEqual(["x", "yz"]);
    expect(fieldsOf(moveField(sections, [1, 0], -1))).toEqual(["xyz", ""]);
    expect(fieldsOf(moveField(sections, [0, 0], -1))).toEqual(["xy", "z"]);
    expect(fieldsOf(moveField(sections, [1, 0], 1))).toEqual(["xy", "z"]);
    expect(sections[0]?.fields).toEqual(["x", "y"]);
  });
});

describe("words", () => {
  it("count", () => {
    expect(counted(1, "page")).toBe("1 page");
    expect(counted(1200, "page")).toBe("1,200 pages");
    expect(
      touchedWords(
        {
          types: 1,
          products: 8,
          surfaces: { product_page: 8, listing_card: 0 },
          effects: null,
          moves: { gone: [], come: [] },
          variants: null,
          lines: [],
          exact: true,
        },
        META.surfaces,
      ),
    ).toBe("1 type, 8 products: 8 pages will differ");
  });
  it("tell a time past", () => {
    expect([ago(200), ago(59_000), ago(120_000), ago(7_200_000)]).toEqual([
      "1 s ago",
      "59 s ago",
      "2 min ago",
      "2 h ago",
    ]);
  });
  it("tell a kind", () => {
    const use = {
      thing: { kind: "measure", many: true, options: { unit: "mm" } },
      own: true,
    } as unknown as Schemas["FieldOut"];
    const kinds = [
      { code: "measure", name: "measure", options: [{ code: "unit", noun: null }] },
    ] as Schemas["KindOut"][];
    expect(kindWords(use, kinds)).toBe("measure, many, mm");
  });
});

describe("places", () => {
  it.each([
    ["field", "ss_hair", "/define/fields/ss_hair"],
    ["value_list", "wood", "/define/lists/wood"],
    ["product", "3/ss_hair", "/fill/products/3?field=ss_hair"],
    ["product", "3", "/fill/products/3"],
    ["lacking", "ss_hair", "/fill/products?lacking=ss_hair"],
    [
      "display_setting",
      "type:paint/ss_hair/listing_card",
      "/present/weave?scope=type%3Apaint&field=ss_hair&cell=listing_card",
    ],
    ["display_setting", "default/ss_hair/product_page", "/present/weave?field=ss_hair&cell=product_page"],
    ["field_set", "origin", "/compose/sets/origin"],
  ])("of a %s", (noun, key, address) => {
    expect(placeOf(noun, key)).toBe(address);
  });
});

import { describe, expect, it } from "vitest";
import { rank, ranked } from "./finding";

const BLOCKS = [
  { name: "options", also: ["variants", "swatches"], help: "What shoppers can choose, with share links to nothing" },
  { name: "add to basket", also: ["cart", "buy"], help: "How many, and into the basket" },
  { name: "fields", also: ["table", "specifications"], help: "Fields of sets, or all that no other place has" },
  { name: "share links", also: ["social"], help: "The page's address to send on" },
  { name: "heading", also: ["headline"], help: "Words above what follows" },
  { name: "panels", also: ["tabs", "accordion"], help: "Parts under headings, as tabs or an accordion" },
  { name: "unit price", also: ["base price"], help: "The price of a reference quantity" },
  { name: "price", also: ["cost"], help: "What it costs" },
];
const first = (words: string) => ranked(BLOCKS, words, (block) => block)[0]?.name;

describe("finding by words", () => {
  it.each([
    ["share links", "share links"],
    ["share", "share links"],
    ["heading", "heading"],
    ["head", "heading"],
    ["tabs", "panels"],
    ["accordion", "panels"],
    ["table", "fields"],
    ["cart", "add to basket"],
    ["price", "price"],
    ["unit", "unit price"],
    ["basket", "add to basket"],
    ["links share", "share links"],
    ["BASKET", "add to basket"],
    ["swatch", "options"],
    ["address", "share links"],
  ])("%s finds %s first", (words, name) => {
    expect(first(words)).toBe(name);
  });

  it("takes words that stand together in what is said for better than scattered ones", () => {
    const rows = [
      { name: "related", help: "Those its fields name, or of the same values" },
      { name: "words", help: "Text with values of fields in it" },
    ];
    expect(ranked(rows, "values of fields", (row) => row).map(({ name }) => name)).toEqual(["words", "related"]);
  });

  it("finds nothing by scattered letters, and all by none", () => {
    expect(ranked(BLOCKS, "hdg", (block) => block)).toEqual([]);
    expect(ranked(BLOCKS, "  ", (block) => block)).toHaveLength(BLOCKS.length);
    expect(rank("!!", { name: "price" })).toBeNull();
  });

  it("takes marks on letters and capitals for what they stand on", () => {
    expect(rank("creme", { name: "Crème" })).toBe(0);
    expect(rank("weiß", { name: "Weiß und Grau" })).toBe(1);
  });

  it("keeps the order of what is found as well", () => {
    const rows = ["Wood b", "Wood a", "Driftwood"].map((name) => ({ name }));
    expect(ranked(rows, "wood", (row) => row).map(({ name }) => name)).toEqual(["Wood b", "Wood a", "Driftwood"]);
  });
});

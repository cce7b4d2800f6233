import { describe, expect, it } from "vitest";
import { type At, HEAD, holds, moved, spanOf, stop } from "./cells";
import type { GridColumn, Line } from "./column";
import { copied, emptied, filledDown, pasted, typedInto } from "./strokes";
import { asTabbed, tabbed } from "./tabbed";

const bands = [0, 4];
const bounds = { lines: 8, columns: 5, page: 3, isBand: (line: number) => bands.includes(line), head: true };
const go = (key: string, line: number, column: number, more: object = {}): At | null =>
  moved({ key, ctrlKey: false, metaKey: false, altKey: false, ...more }, { line, column }, bounds);

describe("moving in a grid", () => {
  it("goes by a cell and stops at the edges", () => {
    expect(go("ArrowRight", 1, 3)).toEqual({ line: 1, column: 4 });
    expect(go("ArrowRight", 1, 4)).toEqual({ line: 1, column: 4 });
    expect(go("ArrowLeft", 1, 0)).toEqual({ line: 1, column: 0 });
    expect(go("ArrowDown", 7, 2)).toEqual({ line: 7, column: 2 });
  });
  it("leaves bands out, both ways", () => {
    expect(go("ArrowDown", 3, 0)).toEqual({ line: 5, column: 0 });
    expect(go("ArrowUp", 5, 0)).toEqual({ line: 3, column: 0 });
    expect(go("PageDown", 1, 0)).toEqual({ line: 5, column: 0 });
    expect(go("PageUp", 7, 0)).toEqual({ line: 3, column: 0 });
  });
  it("comes to the head by a step up from the first row, and back", () => {
    expect(go("ArrowUp", 1, 2)).toEqual({ line: HEAD, column: 2 });
    expect(go("PageUp", 2, 2)).toEqual({ line: 1, column: 2 });
    expect(go("ArrowDown", HEAD, 2)).toEqual({ line: 1, column: 2 });
    expect(go("ArrowUp", HEAD, 2)).toEqual({ line: HEAD, column: 2 });
    const plain = { key: "ArrowUp", ctrlKey: false, metaKey: false, altKey: false };
    expect(moved(plain, { line: 1, column: 0 }, { ...bounds, head: false })).toEqual({ line: 1, column: 0 });
  });
  it("goes to the ends of rows by Home and End, of the whole with Ctrl", () => {
    expect(go("Home", 5, 3)).toEqual({ line: 5, column: 0 });
    expect(go("End", 5, 3)).toEqual({ line: 5, column: 4 });
    expect(go("Home", 5, 3, { ctrlKey: true })).toEqual({ line: 1, column: 0 });
    expect(go("End", 1, 3, { metaKey: true })).toEqual({ line: 7, column: 4 });
    expect(go("ArrowDown", 1, 3, { ctrlKey: true })).toEqual({ line: 7, column: 3 });
    expect(go("ArrowUp", 7, 3, { ctrlKey: true })).toEqual({ line: 1, column: 3 });
  });
  it("is nothing of other keys, nor with Alt", () => {
    expect([go("x", 1, 1), go("ArrowDown", 1, 1, { altKey: true })]).toEqual([null, null]);
  });
  it("finds the nearest row, and the head where there is none", () => {
    expect([stop(4, 1, bounds), stop(4, -1, bounds), stop(0, -1, bounds)]).toEqual([5, 3, 1]);
    expect(stop(0, 1, { lines: 0, isBand: () => false })).toBe(HEAD);
    expect(stop(0, 1, { lines: 2, isBand: () => true })).toBe(HEAD);
  });
  it("chooses a block from either corner", () => {
    const block = { from: { line: 5, column: 3 }, to: { line: 3, column: 1 } };
    expect(spanOf(block)).toEqual({ lines: [3, 4, 5], columns: [1, 2, 3] });
    expect([holds(block, 3, 3), holds(block, 6, 3), holds(block, 4, 0), holds(null, 0, 0)]).toEqual([
      true,
      false,
      false,
      false,
    ]);
  });
});

type Row = Record<string, string>;
const read = (text: string) => (text === "bad" ? { wrong: "not that" } : { value: text.toUpperCase() });
const column = (key: string, more: Partial<GridColumn<Row>> = {}): GridColumn<Row> => ({
  key,
  name: key,
  width: 100,
  show: (row) => row[key],
  text: (row) => row[key] ?? "",
  read,
  edit: () => null,
  ...more,
});
const lines: Line<Row>[] = [
  { key: "band", band: "All" },
  { key: "1", row: { a: "x", b: "tab\there", c: "1" } },
  { key: "2", row: { a: "y", b: 'say "so"' } },
  { key: "other", band: "More" },
  { key: "3", row: { a: "z" } },
];
const cells = { lines, columns: [column("a"), column("b", { read: undefined }), column("c", { edit: undefined })] };
const block = (fromLine: number, fromColumn: number, toLine = fromLine, toColumn = fromColumn) => ({
  from: { line: fromLine, column: fromColumn },
  to: { line: toLine, column: toColumn },
});

describe("strokes", () => {
  it("put what is typed as it is read, and keep what can't be with why", () => {
    expect(typedInto("1", column("a"), "new").edits).toEqual([{ row: "1", column: "a", value: "NEW" }]);
    const refused = typedInto("1", column("a"), "bad");
    expect(refused.edits).toEqual([]);
    expect(refused.texts).toEqual([{ row: "1", column: "a", text: "bad", wrong: "not that" }]);
    expect(typedInto("1", column("a", { read: undefined }), "new").texts).toEqual([]);
  });
  it("paste a table from its cell on, over bands, and count what has no place", () => {
    const stroke = pasted("p\tq\tr\ts\nt\tu\tbad\nv\nw", block(1, 0), cells);
    expect(stroke.edits).toEqual([
      { row: "1", column: "a", value: "P" },
      { row: "1", column: "c", value: "R" },
      { row: "2", column: "a", value: "T" },
      { row: "3", column: "a", value: "V" },
    ]);
    expect(stroke.texts.filter(({ wrong }) => wrong)).toEqual([
      { row: "2", column: "c", text: "bad", wrong: "not that" },
    ]);
    // Two in a column that can't be typed in, one beyond the last column, one beyond the last row.
    expect(stroke.over).toBe(4);
  });
  it("paste on beyond the last row, where the grid takes more", () => {
    const more = { ...cells, beyond: (nth: number) => `new ${nth}` };
    expect(pasted("p\nq\nr", block(4, 0), more).edits.map(({ row }) => row)).toEqual(["3", "new 0", "new 1"]);
  });
  it("paste one value over the whole of a block", () => {
    expect(pasted("one", block(1, 0, 4, 2), cells).edits.map(({ row, column }) => row + column)).toEqual([
      "1a",
      "1c",
      "2a",
      "2c",
      "3a",
      "3c",
    ]);
  });
  it("empty what can be typed in", () => {
    expect(emptied(block(1, 0, 2, 1), cells).edits).toEqual([
      { row: "1", column: "a", value: "" },
      { row: "2", column: "a", value: "" },
    ]);
  });
  it("fill a block from its first row, a cell from the one above, and nothing where there is none above", () => {
    expect(filledDown(block(1, 0, 4, 2), cells).edits).toEqual([
      { row: "2", column: "a", from: "1" },
      { row: "2", column: "b", from: "1" },
      { row: "3", column: "a", from: "1" },
      { row: "3", column: "b", from: "1" },
    ]);
    expect(filledDown(block(4, 1), cells).edits).toEqual([{ row: "3", column: "b", from: "2" }]);
    expect(filledDown(block(1, 0), cells).edits).toEqual([]);
  });
  it("copy as text that is read back as it was", () => {
    const text = copied(block(0, 0, 4, 2), cells);
    expect(tabbed(text)).toEqual([
      ["x", "tab\there", "1"],
      ["y", 'say "so"', ""],
      ["z", "", ""],
    ]);
  });
});

describe("cells as text", () => {
  it.each([
    [[["a", "b"]]],
    [
      [
        ['"', '""'],
        ["a\nb", "\t"],
      ],
    ],
    [[["plain"], ["", ""]]],
  ])("come back: %j", (rows) => {
    const known = rows.map((cells) => cells.map((cell) => cell.trim()));
    if (rows.flat().every((cell) => cell === cell.trim())) expect(tabbed(asTabbed(rows))).toEqual(known);
    else expect(tabbed(asTabbed(rows))).toHaveLength(rows.length);
  });
});

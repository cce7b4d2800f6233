import { describe, expect, it } from "vitest";
import { isBlock, tabbed } from "./tabbed";

describe("pasted text", () => {
  it("is a block where it has tabs or several lines", () => {
    expect(["one", "one\n", "a\tb", "a\nb"].map(isBlock)).toEqual([false, false, true, true]);
  });

  it.each([
    [
      "a\tb\nc\td\n",
      [
        ["a", "b"],
        ["c", "d"],
      ],
    ],
    ["a\r\nb\r\n", [["a"], ["b"]]],
    [
      "a\t\n\tb",
      [
        ["a", ""],
        ["", "b"],
      ],
    ],
    ["", [[""]]],
    ['"two\nlines"\tb', [["two\nlines", "b"]]],
    ['"a\tb"\n"say ""so"""', [["a\tb"], ['say "so"']]],
    ['5" wide\tb', [['5" wide', "b"]]],
    ['"open\tb', [['"open', "b"]]],
    ['"a" b\tc', [['"a" b', "c"]]],
    ["a\n\nb", [["a"], [""], ["b"]]],
  ])("stands in cells: %j", (text, cells) => {
    expect(tabbed(text)).toEqual(cells);
  });

  it("of two hundred thousand cells is read in one go", () => {
    const rows = tabbed(Array(2_000).fill(Array(100).fill('"a ""b"""').join("\t")).join("\n"));
    expect([rows.length, rows[1_999]?.length, rows[1_999]?.[99]]).toEqual([2_000, 100, 'a "b"']);
  });
});

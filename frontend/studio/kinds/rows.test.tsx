import { act, fireEvent, screen } from "@testing-library/react";
import { describe, expect, it, vi } from "vitest";
import type { Schemas } from "../api/client";
import { cellAt, META, serve, show, typeOver } from "../testing";
import { rows } from "./rows";
import { edited, filledDown, linesOf, withCell } from "./rows_grid";

const COLUMNS = [
  { key: "step", label: "Step", kind: "text", required: true },
  { key: "time", label: "Time", kind: "decimal" },
];

async function edit(
  typed: unknown[],
  wrongAt: (string | number)[][] = [],
  onFill: (value: unknown) => unknown = vi.fn(),
) {
  serve({ "GET /api/meta": META });
  const at = {
    field: { key: "steps", name: "Steps", kind: "rows", many: false, limits: {}, options: { columns: COLUMNS } },
    value: {
      state: wrongAt.length > 0 ? "wrong" : "good",
      message: "Row 1 is wrong",
      typed,
      value: typed,
      faults: wrongAt.map((at) => ({ at, message: `Wrong at ${at.join(" ")}` })),
    },
    example: "",
  } as unknown as Schemas["EditField"];
  show(<rows.Editor id="steps" at={at} wrong={wrongAt.length > 0} onFill={onFill} onTyping={() => undefined} />);
  await screen.findByRole("grid");
  return onFill;
}
const cell = (row: number, label: string) => cellAt(String(row), label);
const type = (at: HTMLElement, text: string) => typeOver(at, text);
const press = (at: HTMLElement, key: string, more: object = {}) => {
  act(() => at.focus());
  fireEvent.keyDown(at, { key, ...more });
};
const paste = (at: HTMLElement, text: string) => {
  act(() => at.focus());
  fireEvent.paste(at, { clipboardData: { getData: () => text } });
};

describe("rows", () => {
  it("are a grid with an editor a cell, and a last row to begin the next", async () => {
    await edit([{ step: "Wet", time: "2" }]);
    expect(cell(1, "Step").textContent).toBe("Wet");
    expect(cell(2, "Time").textContent).toBe("");
  });
  it("put a cell, add a row by typing in the last, and leave rows of nothing out", async () => {
    const fill = await edit([{ step: "Wet" }]);
    type(cell(1, "Time"), "3");
    expect(fill).toHaveBeenLastCalledWith([{ step: "Wet", time: "3" }]);
    type(cell(2, "Step"), "Dry");
    expect(fill).toHaveBeenLastCalledWith([{ step: "Wet", time: "3" }, { step: "Dry" }]);
    press(cell(1, "Step"), "Delete");
    press(cell(1, "Time"), "Delete");
    expect(fill).toHaveBeenLastCalledWith([{ step: "Dry" }]);
  });
  it("keep what is written while the first write is under way", async () => {
    const answers: (() => void)[] = [];
    const fill = await edit(
      [],
      [],
      vi.fn(() => new Promise<void>((done) => answers.push(done))),
    );
    type(cell(1, "Step"), "Wet");
    type(cell(1, "Time"), "1");
    await act(async () => answers[0]?.());
    expect(cell(1, "Time").textContent).toBe("1");
    expect(fill).toHaveBeenLastCalledWith([{ step: "Wet", time: "1" }]);
  });
  it("take a pasted table from a cell on", async () => {
    const fill = await edit([{ step: "Wet", time: "2" }]);
    paste(cell(1, "Step"), "Dry\t4\r\nPress\t5\r\n");
    expect(fill).toHaveBeenCalledWith([
      { step: "Dry", time: "4" },
      { step: "Press", time: "5" },
    ]);
    paste(cell(2, "Step"), "only words");
    expect(fill).toHaveBeenLastCalledWith([
      { step: "Dry", time: "4" },
      { step: "only words", time: "5" },
    ]);
  });
  it("fill down, take the cell above, move and take off by keys and buttons", async () => {
    const fill = await edit([{ step: "Wet", time: "2" }, { step: "Dry" }]);
    fireEvent.click(screen.getByText("Fill Time down"));
    expect(fill).toHaveBeenLastCalledWith([
      { step: "Wet", time: "2" },
      { step: "Dry", time: "2" },
    ]);
    press(cell(2, "Step"), "d", { ctrlKey: true });
    expect(fill).toHaveBeenLastCalledWith([
      { step: "Wet", time: "2" },
      { step: "Wet", time: "2" },
    ]);
    type(cell(2, "Step"), "Dry");
    press(cell(2, "Step"), "ArrowUp", { altKey: true });
    expect(fill).toHaveBeenLastCalledWith([
      { step: "Dry", time: "2" },
      { step: "Wet", time: "2" },
    ]);
    expect(document.activeElement).toBe(cell(1, "Step"));
    fireEvent.click(screen.getByLabelText("Take row 1 off"));
    expect(fill).toHaveBeenLastCalledWith([{ step: "Wet", time: "2" }]);
  });
  it("keep what was just typed when the row is moved or a table is pasted right after it", async () => {
    const fill = await edit([{ step: "Wet" }, { step: "Dry" }]);
    typeOver(cell(2, "Step"), "Dry well", "Tab");
    press(cell(2, "Step"), "ArrowUp", { altKey: true });
    expect(fill).toHaveBeenLastCalledWith([{ step: "Dry well" }, { step: "Wet" }]);
    typeOver(cell(1, "Time"), "9");
    paste(cell(1, "Time"), "1\n2\n");
    expect(fill).toHaveBeenLastCalledWith([
      { step: "Dry well", time: "1" },
      { step: "Wet", time: "2" },
    ]);
  });
  it("go on to the next row by Enter, also from the last", async () => {
    await edit([]);
    typeOver(cell(1, "Step"), "Wet");
    expect(document.activeElement).toBe(cell(2, "Step"));
  });
  it("mark every cell that is wrong, each with its own reason", async () => {
    await edit(
      [{ step: "Wet", time: "soon" }, { step: "Dry", time: "4" }, { time: "2" }],
      [
        [0, "time"],
        [2, "step"],
      ],
    );
    expect([...document.querySelectorAll("[aria-invalid=true]")]).toEqual([cell(1, "Time"), cell(3, "Step")]);
    expect([cell(1, "Time").title, cell(3, "Step").title]).toEqual(["Wrong at 0 time", "Wrong at 2 step"]);
    press(cell(1, "Time"), "F2");
    expect(screen.getByLabelText<HTMLInputElement>("Time of Steps, row 1").value).toBe("soon");
  });
});

describe("the grid", () => {
  it("puts, edits and fills without touching what it was given", () => {
    const given = [{ step: "a" }];
    expect(withCell(given, 2, "time", "1")).toEqual([{ step: "a" }, {}, { time: "1" }]);
    expect(withCell(given, 0, "step", [])).toEqual([{}]);
    expect(linesOf(given).map(({ key }) => key)).toEqual(["row 0", "row 1"]);
    const edits = [
      { row: "row 0", column: "time", value: "1" },
      { row: "row 12", column: "step", from: "row 0" },
    ];
    const next = edited(given, edits);
    expect([next[0], next[11], next[12]]).toEqual([{ step: "a", time: "1" }, {}, { step: "a" }]);
    expect(filledDown([{}, { step: "a" }, {}, { step: "b" }, {}], "step")).toEqual([
      {},
      { step: "a" },
      { step: "a" },
      { step: "b" },
      { step: "b" },
    ]);
    expect(given).toEqual([{ step: "a" }]);
  });
});

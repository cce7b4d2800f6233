import { act, fireEvent, screen, within } from "@testing-library/react";
import { describe, expect, it, vi } from "vitest";
import type { Schemas } from "../api/client";
import { META, serve, show } from "../testing";
import { rows } from "./rows";
import { filledDown, spread, withCell } from "./rows_grid";

const COLUMNS = [
  { key: "step", label: "Step", kind: "text", required: true },
  { key: "time", label: "Time", kind: "decimal" },
];

function edit(typed: unknown[], wrongAt: (string | number)[] = [], onFill: (value: unknown) => unknown = vi.fn()) {
  serve({ "GET /api/meta": META });
  const at = {
    field: { key: "steps", name: "Steps", kind: "rows", many: false, limits: {}, options: { columns: COLUMNS } },
    value: { typed, value: typed, wrong_at: wrongAt },
    example: "",
  } as unknown as Schemas["EditField"];
  show(<rows.Editor id="steps" at={at} wrong={wrongAt.length > 0} onFill={onFill} onTyping={() => undefined} />);
  return onFill;
}
const cell = (row: number, label: string) => screen.getByLabelText<HTMLInputElement>(`Steps, row ${row}, ${label}`);
const type = (box: HTMLElement, text: string) => {
  fireEvent.change(box, { target: { value: text } });
  fireEvent.blur(box);
};

describe("rows", () => {
  it("are a grid with an editor a cell, and a last row to begin the next", () => {
    edit([{ step: "Wet", time: "2" }]);
    expect(cell(1, "Step").value).toBe("Wet");
    expect(cell(2, "Time").value).toBe("");
  });
  it("put a cell, add a row by typing in the last, and leave rows of nothing out", () => {
    const fill = edit([{ step: "Wet" }]);
    type(cell(1, "Time"), "3");
    expect(fill).toHaveBeenLastCalledWith([{ step: "Wet", time: "3" }]);
    type(cell(2, "Step"), "Dry");
    expect(fill).toHaveBeenLastCalledWith([{ step: "Wet", time: "3" }, { step: "Dry" }]);
    type(cell(1, "Step"), "");
    type(cell(1, "Time"), "");
    expect(fill).toHaveBeenLastCalledWith([{ step: "Dry" }]);
  });
  it("keep what is written while the first write is under way", async () => {
    const answers: (() => void)[] = [];
    const fill = edit(
      [],
      [],
      vi.fn(() => new Promise<void>((done) => answers.push(done))),
    );
    type(cell(1, "Step"), "Wet");
    type(cell(1, "Time"), "1");
    await act(async () => answers[0]?.());
    expect(cell(1, "Time").value).toBe("1");
    expect(fill).toHaveBeenLastCalledWith([{ step: "Wet", time: "1" }]);
  });
  it("take a pasted table from a cell on", () => {
    const fill = edit([{ step: "Wet", time: "2" }]);
    const data = { getData: () => "Dry\t4\r\nPress\t5\r\n" };
    fireEvent.paste(cell(1, "Step"), { clipboardData: data });
    expect(fill).toHaveBeenCalledWith([
      { step: "Dry", time: "4" },
      { step: "Press", time: "5" },
    ]);
    const word = { getData: () => "only words" };
    fireEvent.paste(cell(1, "Step"), { clipboardData: word });
    expect(fill).toHaveBeenCalledTimes(1);
  });
  it("fill down, take the cell above, move and take off by keys and buttons", () => {
    const fill = edit([{ step: "Wet", time: "2" }, { step: "Dry" }]);
    fireEvent.click(screen.getByText("Fill Time down"));
    expect(fill).toHaveBeenLastCalledWith([
      { step: "Wet", time: "2" },
      { step: "Dry", time: "2" },
    ]);
    fireEvent.keyDown(cell(2, "Step"), { key: "d", ctrlKey: true });
    expect(fill).toHaveBeenLastCalledWith([
      { step: "Wet", time: "2" },
      { step: "Wet", time: "2" },
    ]);
    type(cell(2, "Step"), "Dry");
    fireEvent.keyDown(cell(2, "Step"), { key: "ArrowUp", altKey: true });
    expect(fill).toHaveBeenLastCalledWith([
      { step: "Dry", time: "2" },
      { step: "Wet", time: "2" },
    ]);
    fireEvent.click(screen.getByLabelText("Take row 1 off"));
    expect(fill).toHaveBeenLastCalledWith([{ step: "Wet", time: "2" }]);
  });
  it("keep what was just typed when the row is moved or a table is pasted in the same stroke", () => {
    const fill = edit([{ step: "Wet" }, { step: "Dry" }]);
    const box = cell(2, "Step");
    box.focus();
    fireEvent.change(box, { target: { value: "Dry well" } });
    fireEvent.keyDown(box, { key: "ArrowUp", altKey: true });
    expect(fill).toHaveBeenLastCalledWith([{ step: "Dry well" }, { step: "Wet" }]);
    const time = cell(1, "Time");
    time.focus();
    fireEvent.change(time, { target: { value: "9" } });
    fireEvent.paste(time, { clipboardData: { getData: () => "1\n2\n" } });
    expect(fill).toHaveBeenLastCalledWith([
      { step: "Dry well", time: "1" },
      { step: "Wet", time: "2" },
    ]);
  });
  it("mark the cell that is wrong", () => {
    edit([{ step: "Wet", time: "soon" }, { step: "Dry" }], [0, "time"]);
    const wrong = document.querySelectorAll("[aria-invalid=true]");
    expect(wrong).toHaveLength(1);
    expect(wrong[0]).toBe(cell(1, "Time"));
    expect(within(document.body).getAllByRole("textbox")).toHaveLength(6);
  });
});

describe("the grid", () => {
  it("puts, spreads and fills without touching what it was given", () => {
    const given = [{ step: "a" }];
    expect(withCell(given, 2, "time", "1")).toEqual([{ step: "a" }, {}, { time: "1" }]);
    expect(withCell(given, 0, "step", [])).toEqual([{}]);
    expect(spread(given, COLUMNS, "x\ty\tz", 0, 1)).toEqual([{ step: "a", time: "x" }]);
    expect(spread([], COLUMNS, "a\n\nb", 0, 0)).toEqual([{ step: "a" }, {}, { step: "b" }]);
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

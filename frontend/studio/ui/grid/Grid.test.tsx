import { act, fireEvent, screen, waitFor } from "@testing-library/react";
import { useRef, useState } from "react";
import { describe, expect, it, vi } from "vitest";
import { cellAt, show, typeOver } from "../../testing";
import type { Edit, GridColumn, GridHandle, How, Line } from "./column";
import { Grid } from "./Grid";
import { LineEditor } from "./LineEditor";
import { OverCell } from "./OverCell";
import type { GridProps } from "./props";

type Row = { key: string; cells: Record<string, string> };
const NAMES: Record<string, string> = { name: "Which", a: "Alpha", b: "Beta", c: "Gamma" };
const column = (key: string, more: Partial<GridColumn<Row>> = {}): GridColumn<Row> => ({
  key,
  name: NAMES[key] ?? key,
  width: 100,
  show: ({ cells }) => cells[key],
  text: ({ cells }) => cells[key] ?? "",
  read: (text) => (text === "bad" ? { wrong: "not that" } : { value: text }),
  edit: (_row, editing) => <LineEditor editing={editing} />,
  ...more,
});
const NAME = column("name", { names: true, frozen: true, read: undefined, edit: undefined });
const COLUMNS = [NAME, column("a"), column("b")];
const lineOf = (name: string, cells: Record<string, string> = {}): Line<Row> => ({
  key: name,
  row: { key: name, cells: { name, ...cells } },
});
const LINES = [lineOf("one", { a: "1", b: "x" }), lineOf("two", { a: "2" }), lineOf("three")];

function open(more: Partial<GridProps<Row>> = {}) {
  const put = vi.fn(async (_edits: readonly Edit[], _how: How): Promise<string | null> => null);
  show(<Grid id="test" label="Test" lines={LINES} columns={COLUMNS} nameOf={({ key }) => key} put={put} {...more} />);
  return put;
}
const press = (key: string, more: object = {}) =>
  fireEvent.keyDown(document.activeElement as Element, { key, ...more });
const at = () => {
  const cell = document.activeElement as HTMLElement;
  return `${cell.dataset.row} ${cell.dataset.key}`;
};
const focus = (row: string, key: string) => act(() => cellAt(row, key).focus());

function Going() {
  const [lines, setLines] = useState(LINES);
  const grid = useRef<GridHandle>(null);
  return (
    <>
      <Grid id="going" label="Going" handle={grid} lines={lines} columns={COLUMNS} nameOf={({ key }) => key} />
      <button type="button" onClick={() => grid.current?.focus("two", "b")}>
        there
      </button>
      <button type="button" onClick={() => setLines((old) => old.filter(({ key }) => key !== "two"))}>
        take off
      </button>
    </>
  );
}

function Kept({ told }: { told: (open: { row: string; column: string } | null) => void }) {
  const [cell, setCell] = useState<{ row: string; column: string } | null>(null);
  return (
    <>
      <Grid
        id="kept"
        label="Kept"
        lines={LINES}
        columns={COLUMNS}
        nameOf={({ key }) => key}
        put={async () => null}
        open={cell}
        onOpen={(next) => {
          told(next);
          setCell(next);
        }}
      />
      <button type="button" onClick={() => setCell({ row: "three", column: "b" })}>
        open it
      </button>
    </>
  );
}

describe("a grid", () => {
  it("is one stop for Tab, tells its rows and columns, and which cell is where", () => {
    open();
    const grid = screen.getByRole("grid");
    expect(grid.querySelectorAll("[tabindex='0']")).toHaveLength(1);
    expect([grid.getAttribute("aria-rowcount"), grid.getAttribute("aria-colcount")]).toEqual(["4", "3"]);
    expect(cellAt("two", "Beta").getAttribute("aria-colindex")).toBe("3");
    expect(cellAt("two", "Beta").parentElement?.getAttribute("aria-rowindex")).toBe("3");
    focus("two", "Beta");
    press("ArrowLeft");
    expect(at()).toBe("two a");
    expect(grid.querySelectorAll("[tabindex='0']")).toHaveLength(1);
  });

  it("opens a cell by Enter, F2 or typing, which takes the place of what stood", async () => {
    const put = open();
    focus("one", "Alpha");
    press("Enter");
    expect(screen.getByLabelText<HTMLInputElement>("Alpha of one").value).toBe("1");
    press("Escape");
    expect(at()).toBe("one a");
    press("F2");
    fireEvent.change(document.activeElement as Element, { target: { value: "11" } });
    press("Enter");
    await waitFor(() => expect(put).toHaveBeenLastCalledWith([{ row: "one", column: "a", value: "11" }], "typed"));
    expect(at()).toBe("two a");
    press("7");
    expect((document.activeElement as HTMLInputElement).value).toBe("7");
    press("Tab", { shiftKey: true });
    expect(at()).toBe("two name");
    await waitFor(() => expect(put).toHaveBeenLastCalledWith([{ row: "two", column: "a", value: "7" }], "typed"));
  });

  it("puts nothing where nothing was changed", async () => {
    const put = open();
    focus("one", "Alpha");
    press("Enter");
    press("Enter");
    expect(at()).toBe("two a");
    expect(put).not.toHaveBeenCalled();
  });

  it("keeps what was refused where it was typed, to be mended or let go", async () => {
    const answers: (string | null)[] = ["somebody has it", null];
    const put = open({ put: vi.fn(async () => answers.shift() ?? null) });
    expect(put).not.toHaveBeenCalled();
    typeOver(cellAt("one", "Alpha"), "taken");
    expect(cellAt("one", "Alpha").textContent).toBe("taken");
    expect((await screen.findByRole("alert")).textContent).toBe("Alpha of one: somebody has it");
    expect(cellAt("one", "Alpha").getAttribute("aria-invalid")).toBe("true");
    fireEvent.click(screen.getByText("Alpha of one"));
    expect(at()).toBe("one a");
    press("Enter");
    expect((document.activeElement as HTMLInputElement).value).toBe("taken");
    fireEvent.change(document.activeElement as Element, { target: { value: "free" } });
    press("Enter");
    await waitFor(() => expect(screen.queryByRole("alert")).toBeNull());
    typeOver(cellAt("one", "Alpha"), "bad");
    expect(screen.getByRole("alert").textContent).toBe("Alpha of one: not that");
    focus("one", "Alpha");
    press("Escape");
    expect(screen.queryByRole("alert")).toBeNull();
    expect(cellAt("one", "Alpha").textContent).toBe("1");
  });

  it("tries a refused stroke once more with the cell that is mended", async () => {
    const answers: (string | null)[] = ["somebody has P"];
    const put = vi.fn(async (_edits: readonly Edit[], _how: How) => answers.shift() ?? null);
    open({ put });
    focus("one", "Alpha");
    fireEvent.paste(document.activeElement as Element, { clipboardData: { getData: () => "p\tq\nr\ts" } });
    await screen.findByRole("alert");
    focus("two", "Beta");
    press("Escape");
    typeOver(cellAt("one", "Alpha"), "o");
    await waitFor(() =>
      expect(put).toHaveBeenLastCalledWith(
        [
          { row: "one", column: "b", value: "q" },
          { row: "two", column: "a", value: "r" },
          { row: "one", column: "a", value: "o" },
        ],
        "typed",
      ),
    );
    await waitFor(() => expect(screen.queryByRole("alert")).toBeNull());
  });

  it("tells each cell at fault its own reason, and the others that they wait", async () => {
    const cells = [
      { row: "one", column: "a", why: "A has P" },
      { row: "two", column: "a", why: "B has R" },
    ];
    open({ put: vi.fn(async () => ({ why: "A has P", cells })) });
    focus("one", "Alpha");
    fireEvent.paste(document.activeElement as Element, { clipboardData: { getData: () => "p\tq\nr\ts" } });
    expect((await screen.findByRole("alert")).textContent).toBe("Alpha of two: B has R · 4 cells in all");
    const titles = [...document.querySelectorAll("[aria-invalid=true]")].map((cell) => cell.getAttribute("title"));
    expect(titles.filter((title) => title?.includes("A has P"))).toHaveLength(1);
    expect(titles.filter((title) => title?.includes("waits"))).toHaveLength(2);
  });

  it("puts again only what was refused, when one of a paste that could not be read is mended", async () => {
    const written = vi.fn((_edits: readonly Edit[], _how: How) => new Promise<string | null>(() => undefined));
    open({ put: written });
    focus("one", "Alpha");
    fireEvent.paste(document.activeElement as Element, { clipboardData: { getData: () => "p\tbad" } });
    typeOver(cellAt("one", "Beta"), "good");
    await waitFor(() => expect(written).toHaveBeenCalledTimes(2));
    expect(written.mock.calls[1]?.[0]).toEqual([{ row: "one", column: "b", value: "good" }]);
  });

  it("never tells saved what failed, and keeps it", async () => {
    const put = vi.fn(
      (_edits: readonly Edit[], _how: How): Promise<string | null> => Promise.reject(new Error("away")),
    );
    open({ put });
    typeOver(cellAt("one", "Alpha"), "kept");
    expect((await screen.findByRole("alert")).textContent).toContain("It was not saved");
    expect(cellAt("one", "Alpha").textContent).toBe("kept");
    put.mockResolvedValueOnce(null);
    focus("one", "Alpha");
    press("Enter");
    press("Enter");
    await waitFor(() => expect(screen.queryByRole("alert")).toBeNull());
    expect(put).toHaveBeenCalledTimes(2);
  });

  it("lays a table over the cells, also where one of them is open", async () => {
    const put = open();
    focus("one", "Alpha");
    press("x");
    fireEvent.paste(document.activeElement as Element, { clipboardData: { getData: () => "one line" } });
    expect(put).not.toHaveBeenCalled();
    fireEvent.paste(document.activeElement as Element, { clipboardData: { getData: () => "p\tq" } });
    expect(at()).toBe("one a");
    await waitFor(() =>
      expect(put.mock.calls).toEqual([
        [
          [
            { row: "one", column: "a", value: "p" },
            { row: "one", column: "b", value: "q" },
          ],
          "pasted",
        ],
      ]),
    );
  });

  it("takes an answer only for what it was asked of", async () => {
    const answers: ((why: string | null) => void)[] = [];
    open({ put: () => new Promise<string | null>((done) => answers.push(done)) });
    typeOver(cellAt("one", "Alpha"), "first");
    typeOver(cellAt("one", "Alpha"), "second");
    await act(async () => answers[0]?.("too late"));
    expect(cellAt("one", "Alpha").textContent).toBe("second");
    expect(screen.queryByRole("alert")).toBeNull();
    await act(async () => answers[1]?.(null));
    expect(cellAt("one", "Alpha").textContent).toBe("1");
  });

  it("chooses a block by Shift with arrows or a press, fills, empties and copies it, and lets it go by Esc", async () => {
    const put = open({ bar: ({ rows, columns }) => <p>{`${rows.length} by ${columns.length}`}</p> });
    focus("one", "Alpha");
    press("ArrowDown", { shiftKey: true });
    press("ArrowRight", { shiftKey: true });
    expect(screen.getByText("2 by 2")).toBeTruthy();
    expect(document.querySelectorAll("[aria-selected=true]")).toHaveLength(4);
    press("d", { ctrlKey: true });
    await waitFor(() =>
      expect(put).toHaveBeenLastCalledWith(
        [
          { row: "two", column: "a", from: "one" },
          { row: "two", column: "b", from: "one" },
        ],
        "filled down",
      ),
    );
    const setData = vi.fn();
    fireEvent.copy(document.activeElement as Element, { clipboardData: { setData } });
    expect(setData).toHaveBeenCalledWith("text/plain", "1\tx\n2\t");
    press("Delete");
    expect(put.mock.lastCall?.[1]).toBe("emptied");
    press("Escape");
    expect(screen.queryByText("2 by 2")).toBeNull();
    fireEvent.mouseDown(cellAt("three", "Alpha"), { shiftKey: true });
    expect(screen.getByText("2 by 2")).toBeTruthy();
    press("ArrowUp");
    expect(document.querySelectorAll("[aria-selected=true]")).toHaveLength(0);
  });

  it("chooses a block by pulling over it", () => {
    open({ bar: ({ rows, columns }) => <p>{`${rows.length} by ${columns.length}`}</p> });
    fireEvent.mouseDown(cellAt("one", "Alpha"));
    fireEvent.mouseOver(cellAt("one", "Alpha"), { buttons: 1 });
    expect(screen.queryByText("1 by 1")).toBeNull();
    fireEvent.mouseOver(cellAt("three", "Beta"), { buttons: 1 });
    fireEvent.click(cellAt("three", "Beta"));
    expect(screen.getByText("3 by 2")).toBeTruthy();
  });

  it("is edited by a press on the cell at hand, or two on any; a quick one by the first", () => {
    const pressed = vi.fn();
    const quick = column("c", { quick: true, edits: () => false, press: pressed });
    open({ columns: [...COLUMNS, quick] });
    const click = (cell: HTMLElement) => {
      fireEvent.mouseDown(cell);
      fireEvent.click(cell);
    };
    click(cellAt("one", "Alpha"));
    expect(screen.queryByLabelText("Alpha of one")).toBeNull();
    click(cellAt("one", "Alpha"));
    expect(screen.getByLabelText("Alpha of one")).toBeTruthy();
    click(cellAt("two", "Gamma"));
    expect(pressed).toHaveBeenCalledTimes(1);
    fireEvent.doubleClick(cellAt("two", "Gamma"));
    press("Enter");
    expect(pressed).toHaveBeenCalledTimes(2);
  });

  it("keeps what is typed when another cell is pressed, or the row goes", async () => {
    const put = open();
    focus("one", "Alpha");
    press("5");
    fireEvent.mouseDown(cellAt("two", "Beta"));
    await waitFor(() => expect(put).toHaveBeenLastCalledWith([{ row: "one", column: "a", value: "5" }], "typed"));
  });

  it("makes columns wider and narrower by keys, and remembers that", () => {
    open();
    focus("one", "Alpha");
    press("ArrowRight", { altKey: true, shiftKey: true });
    press("ArrowRight", { altKey: true, shiftKey: true });
    press("ArrowLeft", { altKey: true, shiftKey: true });
    expect(cellAt("one", "Alpha").style.width).toBe("116px");
    expect(JSON.parse(localStorage.getItem("widths:test") ?? "")).toEqual({ a: 116 });
    for (let step = 0; step < 9; step += 1) press("ArrowLeft", { altKey: true, shiftKey: true });
    expect(cellAt("one", "Alpha").style.width).toBe("44px");
    localStorage.setItem("widths:test", '{"a": "wide", "b": -3}');
  });

  it("lets the column that takes what is left be as wide as somebody made it", () => {
    localStorage.removeItem("widths:test");
    open({ columns: [NAME, column("a", { grows: true }), column("b")] });
    expect(cellAt("one", "Alpha").style.width).toBe("1200px");
    focus("one", "Alpha");
    press("ArrowLeft", { altKey: true, shiftKey: true });
    expect(cellAt("one", "Alpha").style.width).toBe("900px");
    press("ArrowLeft", { altKey: true, shiftKey: true });
    expect(cellAt("one", "Alpha").style.width).toBe("884px");
    const pull = document.querySelectorAll(".pull")[2] as HTMLElement;
    fireEvent.mouseDown(pull, { clientX: 500 });
    fireEvent.mouseMove(document, { clientX: 540 });
    fireEvent.mouseUp(document, { clientX: 540 });
    expect(cellAt("one", "Beta").style.width).toBe("140px");
  });

  it("begins with its own widths where what was remembered is none", () => {
    localStorage.setItem("widths:test", "broken");
    open();
    expect(cellAt("one", "Alpha").style.width).toBe("100px");
  });

  it("draws what is near the window, and what has the focus wherever that is", () => {
    const many = Array.from({ length: 2000 }, (_, index) => lineOf(`row ${index}`, { a: String(index) }));
    open({ lines: many });
    const drawn = () => document.querySelectorAll("[role=grid] [data-mark]").length;
    expect(drawn()).toBeLessThan(60);
    focus("row 3", "Alpha");
    press("End", { ctrlKey: true });
    expect(at()).toBe("row 1999 b");
    expect(drawn()).toBeLessThan(60);
  });

  it("keeps the focus where the row at hand goes: on what comes into its place", () => {
    show(<Going />);
    fireEvent.click(screen.getByText("there"));
    expect(at()).toBe("two b");
    fireEvent.click(screen.getByText("take off"));
    expect(at()).toBe("three b");
  });

  it("leaves keys to what floats over a cell, and has the focus again after it", async () => {
    const put = open({
      columns: [NAME, column("a", { edit: (_, editing) => <OverCell editing={editing}>over it</OverCell> })],
    });
    focus("one", "Alpha");
    press("Enter");
    expect(await screen.findByText("over it")).toBeTruthy();
    fireEvent.keyDown(screen.getByText("over it"), { key: "Delete" });
    expect(put).not.toHaveBeenCalled();
    fireEvent.keyDown(screen.getByText("over it"), { key: "Escape" });
    await waitFor(() => expect(at()).toBe("one a"));
  });

  it("follows a caller that keeps which cell is open, and tells it of each", async () => {
    const told = vi.fn();
    show(<Kept told={told} />);
    fireEvent.click(screen.getByText("open it"));
    expect(screen.getByLabelText("Beta of three")).toBeTruthy();
    fireEvent.mouseDown(cellAt("one", "Alpha"));
    await waitFor(() => expect(told).toHaveBeenLastCalledWith(null));
    focus("two", "Alpha");
    press("Enter");
    expect(told).toHaveBeenLastCalledWith({ row: "two", column: "a" });
  });

  it("is read only where nothing can be put", () => {
    open({ put: undefined });
    focus("one", "Alpha");
    press("x");
    press("Delete");
    expect(screen.queryByLabelText("Alpha of one")).toBeNull();
    expect(screen.getByRole("grid").getAttribute("aria-readonly")).toBe("true");
  });
});

import { fireEvent, screen, waitFor } from "@testing-library/react";
import { describe, expect, it } from "vitest";
import { META, serve, show, writes } from "../../../testing";
import { pasted, readStock, STOCK } from "./useVariants";
import { VariantsGrid } from "./VariantsGrid";

const field = (key: string, name: string, kind: string, many = false) => ({
  field: { key, name, label: name, kind, many, limits: {}, options: {}, order: "by_hand" },
  own: false,
  made: key === "sku",
});
const row = (id: number, name: string, more = {}) => ({
  id,
  version: 1,
  choices: {},
  name,
  sku: "",
  made_sku: `S-${id}`,
  clash: "",
  price: "€9.80",
  stock: null,
  retired: false,
  cells: {},
  lacks: [],
  ...more,
});
const GRID = {
  product: 7,
  options: [{ key: "size", name: "Size" }],
  fields: [
    field("sku", "SKU", "text"),
    field("price", "Price", "money"),
    field("pictures", "Pictures", "picture", true),
  ],
  rows: [
    row(1, "Small", { stock: 3, cells: { price: { typed: "12", shown: "€12.00", wrong: "" } } }),
    row(2, "Large", { clash: "Other has S-2", price: null, lacks: ["pictures", "price"] }),
    row(3, "Giant", { retired: true }),
  ],
  formula: "2",
};
const at = () => {
  const asked = serve({
    "GET /api/meta": META,
    "GET /api/products/7/variants": GRID,
    "PATCH /api/products/7/variants": GRID,
  });
  show(<VariantsGrid product={7} />);
  return asked;
};

describe("what is pasted over the grid", () => {
  const rows = GRID.rows as never;
  it("goes to the cells below and beside, and what hangs over is counted", () => {
    const made = pasted("A\t1\nB\t2\nC\t3\nD\t4\n", rows, ["sku", STOCK], { row: 1, column: "sku" });
    expect(made.edits).toEqual([
      { id: 2, values: { sku: "A", [STOCK]: 1 } },
      { id: 3, values: { sku: "B", [STOCK]: 2 } },
    ]);
    expect(made.over).toBe(4);
    expect(pasted("9\t9", rows, ["sku", STOCK], { row: 0, column: STOCK }).over).toBe(1);
  });
  it("says what is no stock", () => {
    expect(readStock("")).toEqual({ amount: null });
    expect(readStock(" 12 ")).toEqual({ amount: 12 });
    expect("wrong" in readStock("12.5")).toBe(true);
    expect(pasted("many", rows, [STOCK], { row: 0, column: STOCK }).wrong).toContain("many");
  });
});

describe("the grid of variants", () => {
  it("writes a cell from the version that was read, and stock beside it", async () => {
    const asked = at();
    const box = await screen.findByLabelText("SKU of Large");
    expect((box as HTMLInputElement).placeholder).toBe("S-2");
    expect(screen.getByText("Other has S-2")).toBeTruthy();
    expect(screen.getByText("no price")).toBeTruthy();
    fireEvent.change(box, { target: { value: "MINE" } });
    fireEvent.blur(box);
    const stock = screen.getByLabelText("Stock of Small");
    fireEvent.change(stock, { target: { value: "5" } });
    fireEvent.blur(stock);
    await waitFor(() =>
      expect(writes(asked).map(([, , body]) => body)).toEqual([
        { edits: [{ id: 2, version: 1, values: { sku: "MINE" } }], stocks: [] },
        { edits: [], stocks: [{ id: 1, expected: 3, amount: 5 }] },
      ]),
    );
  });

  it("fills a value down over those that are offered", async () => {
    const asked = at();
    const box = await screen.findByLabelText("Price of Small");
    fireEvent.focus(box);
    fireEvent.keyDown(box, { key: "d", ctrlKey: true });
    await waitFor(() =>
      expect(writes(asked).at(-1)?.[2]).toEqual({
        edits: [{ id: 2, version: 1, values: { price: "12" } }],
        stocks: [],
      }),
    );
  });

  it("sets many at once, and shows those that lack something", async () => {
    const asked = at();
    fireEvent.click(await screen.findByRole("button", { name: "1 without price" }));
    expect(screen.queryByLabelText("Price of Small")).toBeNull();
    fireEvent.click(screen.getByRole("button", { name: "Set all…" }));
    fireEvent.change(await screen.findByLabelText("Set"), { target: { value: "price" } });
    fireEvent.change(screen.getByLabelText("To"), { target: { value: "20" } });
    fireEvent.click(screen.getByRole("button", { name: "Set them" }));
    await waitFor(() =>
      expect(writes(asked).at(-1)?.[2]).toEqual({
        edits: [{ id: 2, version: 1, values: { price: "20" } }],
        stocks: [],
      }),
    );
  });
});

import { act, fireEvent, screen, waitFor } from "@testing-library/react";
import { describe, expect, it } from "vitest";
import { cellAt, META, serve, show, typeOver, writes } from "../../../testing";
import { editsOf, readStock, STOCK } from "./useVariants";
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

describe("changes of cells", () => {
  it("are those of rows, and what is filled down is what stands above when its turn comes", () => {
    const edits = [
      { row: "2", column: "sku", value: "A" },
      { row: "2", column: STOCK, from: "1" },
      { row: "3", column: "price", from: "1" },
      { row: "3", column: "sku", from: "2" },
      { row: "9", column: "sku", value: "gone" },
    ];
    expect(editsOf(edits, GRID as never)).toEqual([
      { id: 2, values: { sku: "A", [STOCK]: 3 } },
      { id: 3, values: { price: "12", sku: "" } },
    ]);
  });
  it("of stock are whole numbers, or nothing", () => {
    expect(readStock("")).toEqual({ value: null });
    expect(readStock(" 12 ")).toEqual({ value: 12 });
    expect("wrong" in readStock("12.5")).toBe(true);
  });
});

describe("the grid of variants", () => {
  it("writes a cell from the version that was read, and stock beside it", async () => {
    const asked = at();
    await screen.findByText("no price");
    expect(cellAt("Large", "SKU").textContent).toBe("S-2");
    expect(screen.getByText("· Other has S-2")).toBeTruthy();
    typeOver(cellAt("Large", "SKU"), "MINE");
    typeOver(cellAt("Small", "Stock"), "5");
    await waitFor(() =>
      expect(writes(asked).map(([, , body]) => body)).toEqual([
        { edits: [{ id: 2, version: 1, values: { sku: "MINE" } }], stocks: [] },
        { edits: [], stocks: [{ id: 1, expected: 3, amount: 5 }] },
      ]),
    );
  });

  it("keeps what is no stock where it was typed, with why", async () => {
    const asked = at();
    await screen.findByText("no price");
    typeOver(cellAt("Small", "Stock"), "many");
    expect(screen.getByRole("alert").textContent).toContain("Stock of Small: “many” is no stock");
    expect(cellAt("Small", "Stock").textContent).toBe("many");
    act(() => cellAt("Small", "Stock").focus());
    fireEvent.keyDown(cellAt("Small", "Stock"), { key: "Escape" });
    expect(cellAt("Small", "Stock").textContent).toBe("3");
    expect(writes(asked)).toEqual([]);
  });

  it("fills a value down over those that are offered", async () => {
    const asked = at();
    await screen.findByText("no price");
    act(() => cellAt("Small", "Price").focus());
    fireEvent.click(await screen.findByText("Fill down"));
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
    expect(screen.queryByLabelText("Tick Small")).toBeNull();
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

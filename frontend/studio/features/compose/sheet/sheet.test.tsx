import { fireEvent, screen, waitFor } from "@testing-library/react";
import { describe, expect, it } from "vitest";
import { META, serve, show, writes } from "../../../testing";
import SheetView from "./SheetView";

const type = (key: string, name: string, depth = 0) => ({
  key,
  name,
  path: depth ? `Paint › ${name}` : name,
  depth,
  version: 1,
  products: 4,
});
const cell = (how: string, by: string, need = "optional", more = {}) => ({
  how,
  by,
  sets: how === "here" ? [] : ["colour"],
  need,
  filled: 2,
  wrong: 0,
  asks: [],
  ...more,
});
const SHEET = {
  types: [type("easels", "Easels"), type("paint", "Paint"), type("oil", "Oil", 1)],
  groups: [
    {
      title: "Colour",
      set: "colour",
      fields: [
        { key: "hue", name: "Hue", kind: "text" },
        { key: "tint", name: "Tint", kind: "text" },
      ],
    },
    { title: "In no set", set: null, fields: [{ key: "gloss", name: "Gloss", kind: "text" }] },
  ],
  cells: {
    easels: {},
    paint: { hue: cell("set", "paint"), tint: cell("set", "paint", "wanted") },
    oil: {
      hue: cell("inherited", "paint"),
      tint: cell("inherited", "paint", "required", {
        asks: [
          { type: "paint", need: "wanted" },
          { type: "oil", need: "required" },
        ],
      }),
      gloss: cell("here", "oil"),
    },
  },
};
const row = (key: string, fields: string[]) => ({
  thing: { key, name: key, parent: null, sets: [], fields, needs: {}, own: {} },
  version: 1,
  path: key,
  ancestors: [],
  products: 4,
  below: 4,
});
const NOTHING = { types: 0, products: 0, surfaces: {}, effects: null, moves: { gone: [], come: [] }, variants: null };
const ANSWERS = {
  "GET /api/sheet": SHEET,
  "GET /api/meta": META,
  "GET /api/product_types": { things: [row("easels", []), row("oil", ["gloss"])] },
};

describe("who has what", () => {
  it("gives a field to a type by a press, and takes a single one off", async () => {
    const asked = serve({
      ...ANSWERS,
      "POST /api/product_types/easels/consequences": NOTHING,
      "POST /api/product_types/oil/consequences": NOTHING,
      "PATCH /api/product_types/easels": { ...row("easels", ["hue"]), version: 2 },
      "PATCH /api/product_types/oil": { ...row("oil", []), version: 2 },
    });
    show(<SheetView />);
    fireEvent.click(await screen.findByLabelText("Hue: Easels does not have it. Give it"));
    await waitFor(() =>
      expect(writes(asked).at(-1)).toEqual(["PATCH", "/api/product_types/easels", { fields: ["hue"], version: 1 }]),
    );
    fireEvent.click(screen.getByLabelText(/^Gloss: Oil has it, as a single field/));
    fireEvent.click(await screen.findByText("Take it off"));
    await waitFor(() =>
      expect(writes(asked).at(-1)).toEqual(["PATCH", "/api/product_types/oil", { fields: [], version: 1 }]),
    );
  });

  it("tells where a field comes from, and whose need holds where two differ", async () => {
    serve(ANSWERS);
    show(<SheetView />);
    fireEvent.click(
      await screen.findByLabelText(/^Tint: Oil has it, from Paint, by Colour, required, 2 of 4 products/),
    );
    expect((await screen.findByRole("note")).textContent).toBe(
      "Paint asks wanted, Oil asks required: required, the strictest, holds.",
    );
    expect(screen.queryByText("Take it off")).toBeNull();
    expect(screen.getByText("Open Paint")).toBeTruthy();
  });

  it("compares types side by side, and shows only what differs", async () => {
    serve(ANSWERS);
    show(<SheetView />, "/?types=paint,oil&only=1");
    await screen.findByText("Tint");
    expect(screen.queryByText("Hue")).toBeNull();
    expect(screen.getByText("Gloss")).toBeTruthy();
    expect(screen.queryByText("Easels")).toBeNull();
    fireEvent.click(screen.getByText("only what differs"));
    expect(await screen.findByText("Hue")).toBeTruthy();
  });

  it("finds fields by their name", async () => {
    serve(ANSWERS);
    show(<SheetView />);
    fireEvent.change(await screen.findByLabelText("Find a field"), { target: { value: "glo" } });
    expect(screen.queryByText("Hue")).toBeNull();
    fireEvent.change(screen.getByLabelText("Find a field"), { target: { value: "nothing" } });
    expect(screen.getByText("No field of that name")).toBeTruthy();
  });
});

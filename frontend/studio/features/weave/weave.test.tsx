import { fireEvent, screen, waitFor } from "@testing-library/react";
import { describe, expect, it, vi } from "vitest";
import type { Schemas } from "../../api/client";
import { here, META, serve, show, writes } from "../../testing";
import { CellButton } from "./CellButton";
import WeaveView from "./WeaveView";

const setting = (value: unknown, origin = "default", origin_name = "default") => ({ value, origin, origin_name });
const settings = (shown: boolean) => ({
  shown: setting(shown, "type:paint", "Paint"),
  label: setting("beside"),
  label_text: setting(""),
  empty: setting("omit"),
  devices: setting(["phone", "tablet", "desktop"]),
});
const cell = (surface: string, state: string, own = {}, reason = "") => ({
  surface,
  state,
  settings: settings(state !== "off"),
  own,
  properties: ["shown", "label", "label_text", "devices"],
  version: Object.keys(own).length || null,
  reason,
});
const ROW = {
  key: "ss_hue",
  name: "Hue",
  cells: [cell("product_page", "inherited"), cell("listing_card", "here", { shown: true, label: "above" })],
} as unknown as Schemas["WeaveRow"];
const TOUCHED = {
  types: 1,
  products: 14,
  surfaces: { product_page: 14, listing_card: 0 },
  effects: null,
  moves: { gone: [], come: [] },
};

function button(column: number, open = false) {
  const asked = serve({
    "GET /api/meta": META,
    "PATCH /api/display_settings": ({ body }: { body: { version: number | null } }) => ({
      version: (body.version ?? 0) + 1,
    }),
    "POST /api/display_settings/consequences": TOUCHED,
  });
  const why = vi.fn();
  const turn = vi.fn();
  show(
    <CellButton
      row={ROW}
      cell={ROW.cells[column] as Schemas["CellOut"]}
      scope="type:water"
      scopeName="Watercolour"
      open={open}
      onCell={turn}
      onWhy={why}
    />,
  );
  return { asked, why, turn };
}
const patches = (asked: ReturnType<typeof serve>) =>
  writes(asked)
    .filter(([method]) => method === "PATCH")
    .map(([, , body]) => body);

describe("a cell of the weave", () => {
  it("says in words what its pattern says", async () => {
    button(0);
    expect(await screen.findByLabelText("Hue on the product page: shown, inherited from Paint")).toBeTruthy();
  });

  it("is turned over by Space, and asks why by W", async () => {
    const { asked, why } = button(0);
    const cell = await screen.findByLabelText(/Hue on the product page/);
    fireEvent.keyDown(cell, { key: " " });
    await waitFor(() =>
      expect(patches(asked)).toEqual([
        { scope: "type:water", field: "ss_hue", surface: "product_page", set: { shown: false }, version: null },
      ]),
    );
    fireEvent.keyDown(cell, { key: "w" });
    expect(why).toHaveBeenCalledWith("product_page");
  });

  it("tells for each setting where it comes from, and how many pages turning it would change", async () => {
    button(0, true);
    expect(await screen.findByText("from Paint")).toBeTruthy();
    expect(await screen.findByText("hiding it changes 14 pages")).toBeTruthy();
    expect(screen.getByText<HTMLButtonElement>("Reset to inherited").disabled).toBe(true);
  });

  it("goes back to inherited, one property or all of them", async () => {
    const { asked } = button(1, true);
    fireEvent.click((await screen.findAllByTitle("Back to inherited"))[1] as HTMLElement);
    fireEvent.click(screen.getByText("Reset to inherited"));
    await waitFor(() => expect(patches(asked)).toHaveLength(2));
    expect(patches(asked).map((body) => (body as { version: number }).version)).toEqual([2, 3]);
    expect(patches(asked).map((body) => (body as { set: object }).set)).toEqual([
      { label: null },
      { shown: null, label: null },
    ]);
  });

  it("sets devices, never none", async () => {
    const { asked } = button(0, true);
    fireEvent.click(await screen.findByLabelText("tablet"));
    await waitFor(() => expect(patches(asked)).toHaveLength(1));
    expect((patches(asked)[0] as { set: object }).set).toEqual({ devices: ["phone", "desktop"] });
  });

  it("takes other words for the label, and its own again when they are emptied", async () => {
    const { asked } = button(0, true);
    const words = await screen.findByLabelText("Words");
    fireEvent.change(words, { target: { value: "Shade" } });
    fireEvent.blur(words);
    await waitFor(() => expect(patches(asked)).toHaveLength(1));
    expect((patches(asked)[0] as { set: object }).set).toEqual({ label_text: "Shade" });
  });
});

describe("the weave", () => {
  const GROUPS = [
    {
      title: "Every product",
      note: "built in",
      rows: [{ key: "title", name: "Title", cells: [cell("product_page", "inherited"), cell("listing_card", "off")] }],
    },
    { title: "Paint basics", note: "field set", rows: [ROW] },
    {
      title: "Feeds",
      note: "field set",
      rows: [
        {
          key: "ss_lot",
          name: "Lot",
          cells: [cell("product_page", "impossible", {}, "It is for other systems"), cell("listing_card", "off")],
        },
      ],
    },
  ];
  const open = (at: string) => {
    const asked = serve({
      "GET /api/meta": META,
      "GET /api/product_types": {
        things: [{ thing: { key: "water", name: "Watercolour" }, path: "Paint › Watercolour", ancestors: ["paint"] }],
      },
      "GET /api/weave": { scope_name: "Watercolour", example: 4, groups: GROUPS },
      "GET /api/products/4": { id: 4, title: "Peat", type: "water" },
      "GET /api/missing": { missing: [] },
      "GET /api/why": { shows: true, field_name: "Hue", steps: [] },
      "PATCH /api/display_settings": ({ body }: { body: { version: number | null } }) => ({
        version: (body.version ?? 0) + 1,
      }),
    });
    show(<WeaveView />, at);
    return asked;
  };

  it("moves by arrows from cell to cell and stops at the edges", async () => {
    open("/present/weave?scope=type:water");
    const first = await screen.findByLabelText(/Title on the product page/);
    first.focus();
    fireEvent.keyDown(first, { key: "ArrowRight" });
    expect(document.activeElement?.getAttribute("aria-label")).toContain("Title on the listing card");
    fireEvent.keyDown(document.activeElement as Element, { key: "ArrowDown" });
    expect(document.activeElement?.getAttribute("aria-label")).toContain("Hue on the listing card");
    fireEvent.keyDown(document.activeElement as Element, { key: "ArrowUp" });
    fireEvent.keyDown(document.activeElement as Element, { key: "ArrowUp" });
    expect(document.activeElement?.getAttribute("aria-label")).toContain("Title on the listing card");
    expect(here()).toContain("field=title");
  });

  it("shows on wish only what is set here", async () => {
    open("/present/weave?scope=type:water");
    await screen.findByLabelText(/Title on the product page/);
    fireEvent.click(screen.getByText("Only what is set here"));
    expect(screen.queryByLabelText(/Title on the product page/)).toBeNull();
    expect(screen.getByLabelText(/Hue on the listing card/)).toBeTruthy();
    expect(here()).toContain("only=1");
  });

  it("marks at its edge what is wanted and impossible", async () => {
    open("/present/weave?scope=type:water");
    expect(await screen.findByRole("button", { name: "Lot: It is for other systems" })).toBeTruthy();
  });

  it("can be for the shop, a type or the one product at hand", async () => {
    const asked = open("/present/weave?scope=type:water");
    fireEvent.click(await screen.findByText("for Peat alone"));
    expect(here()).toBe("/present/weave?scope=product%3A4");
    await waitFor(() => expect(asked.some((request) => request.query.get("scope") === "product:4")).toBe(true));
    expect(await screen.findByText("open this product")).toBeTruthy();
    fireEvent.change(screen.getByLabelText("Whom the weave is for"), { target: { value: "shop" } });
    expect(here()).toBe("/present/weave");
  });
});

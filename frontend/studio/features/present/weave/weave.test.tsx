import { act, fireEvent, screen, waitFor } from "@testing-library/react";
import { describe, expect, it, vi } from "vitest";
import type { Schemas } from "../../../api/client";
import { here, META, serve, show, writes } from "../../../testing";
import { CellSettings } from "./CellSettings";
import { taken } from "./CopyFrom";
import WeaveView from "./WeaveView";

const setting = (value: unknown, origin = "default", origin_name = "default") => ({ value, origin, origin_name });
const cell = (surface: string, state: string, own = {}, reason = "") => ({
  surface,
  state,
  settings: { shown: setting(state !== "off", "type:paint", "Paint") },
  own,
  version: Object.keys(own).length || null,
  reason,
});
const property = (code: string, value: unknown, own = false, origin = "default", origin_name = "default") => ({
  code,
  value,
  origin,
  origin_name,
  own,
  choices: META.properties.find((known) => known.code === code)?.choices ?? [],
});
const OPEN = (own: Record<string, unknown>) => ({
  version: Object.keys(own).length || null,
  properties: [
    property("shown", own.shown ?? true, "shown" in own, "type:paint", "Paint"),
    property("label", own.label ?? "beside", "label" in own),
    property("label_text", ""),
    property("devices", ["phone", "tablet", "desktop"]),
  ],
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
  variants: null,
};
const ANSWERS = {
  "PATCH /api/display_settings": ({ body }: { body: { version: number | null } }) => ({
    version: (body.version ?? 0) + 1,
  }),
  "PATCH /api/display_settings/several": ({ body }: { body: { cells: unknown[] } }) => ({
    versions: body.cells.map(() => 1),
  }),
  "POST /api/display_settings/consequences": TOUCHED,
  "POST /api/display_settings/several/consequences": ({ body }: { body: { sets: unknown[] } }) => ({
    touched: body.sets.map(() => TOUCHED),
  }),
};

function settings(own: Record<string, unknown>) {
  const asked = serve({ ...ANSWERS, "GET /api/meta": META, "GET /api/weave/cell": OPEN(own) });
  const why = vi.fn();
  show(
    <CellSettings
      scope="type:water"
      field="ss_hue"
      surface="listing_card"
      version={Object.keys(own).length || null}
      title="Hue on the listing card"
      scopeName="Watercolour"
      shown
      onWhy={why}
    />,
  );
  return { asked, why };
}
const patches = (asked: ReturnType<typeof serve>) =>
  writes(asked)
    .filter(([method]) => method === "PATCH")
    .map(([, , body]) => body);

describe("the settings of a cell", () => {
  it("tell for each where it comes from, and how many pages turning it would change", async () => {
    const { why } = settings({});
    expect(await screen.findByText("from Paint")).toBeTruthy();
    expect(await screen.findByText("hiding it changes 14 pages")).toBeTruthy();
    expect(screen.getByText<HTMLButtonElement>("Reset to inherited").disabled).toBe(true);
    fireEvent.click(screen.getByText("Why"));
    expect(why).toHaveBeenCalled();
  });

  it("go back to inherited, one property or all of them, each from the last version", async () => {
    const { asked } = settings({ shown: true, label: "above" });
    fireEvent.click((await screen.findAllByTitle("Back to inherited"))[1] as HTMLElement);
    fireEvent.click(screen.getByText("Reset to inherited"));
    await waitFor(() => expect(patches(asked)).toHaveLength(2));
    expect(patches(asked).map((body) => (body as { version: number }).version)).toEqual([2, 3]);
    expect(patches(asked).map((body) => (body as { set: object }).set)).toEqual([
      { label: null },
      { shown: null, label: null },
    ]);
  });

  it("go back all of them, though what was set a moment ago is in no answer yet", async () => {
    const { asked } = settings({});
    fireEvent.click(await screen.findByLabelText("tablet"));
    fireEvent.click(screen.getByText("Reset to inherited"));
    await waitFor(() => expect(patches(asked)).toHaveLength(2));
    expect((patches(asked)[1] as { set: object }).set).toMatchObject({ devices: null });
  });

  it("set devices, never none", async () => {
    const { asked } = settings({});
    fireEvent.click(await screen.findByLabelText("tablet"));
    await waitFor(() => expect(patches(asked)).toHaveLength(1));
    expect((patches(asked)[0] as { set: object }).set).toEqual({ devices: ["phone", "desktop"] });
  });

  it("take other words for the label, and its own again when they are emptied", async () => {
    const { asked } = settings({});
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
  const WEAVE = { scope: "type:water", scope_name: "Watercolour", example: 4, groups: GROUPS, wholes: [], layouts: [] };
  const open = (at: string) => {
    const asked = serve({
      "GET /api/meta": META,
      "GET /api/product_types": {
        things: [{ thing: { key: "water", name: "Watercolour" }, path: "Paint › Watercolour", ancestors: ["paint"] }],
      },
      "GET /api/weave": ({ query }: { query: URLSearchParams }) => ({ ...WEAVE, scope: query.get("scope") ?? "shop" }),
      "GET /api/weave/cell": OPEN({}),
      "GET /api/collections": { things: [] },
      "GET /api/layouts": { things: [] },
      "GET /api/examples": { examples: [] },
      "GET /api/products/4": { id: 4, title: "Peat", type: "water" },
      "GET /api/missing": { missing: [] },
      "GET /api/why": { shows: true, field_name: "Hue", steps: [] },
      ...ANSWERS,
    });
    show(<WeaveView />, at);
    return asked;
  };

  it("moves by arrows from cell to cell, and to the heads", async () => {
    open("/present/weave?scope=type:water");
    const first = await screen.findByLabelText(/Title on the product page/);
    act(() => first.focus());
    fireEvent.keyDown(first, { key: "ArrowRight" });
    expect(document.activeElement?.getAttribute("aria-label")).toContain("Title on the listing card");
    fireEvent.keyDown(document.activeElement as Element, { key: "ArrowDown" });
    expect(document.activeElement?.getAttribute("aria-label")).toContain("Hue on the listing card");
    fireEvent.keyDown(document.activeElement as Element, { key: "ArrowUp" });
    // Above the first row are the heads, with what is said of a whole surface.
    fireEvent.keyDown(document.activeElement as Element, { key: "ArrowUp" });
    expect(document.activeElement?.tagName).toBe("BUTTON");
    fireEvent.keyDown(document.activeElement as Element, { key: "ArrowDown" });
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

  it("turns a cell over by Space and asks why by W", async () => {
    const asked = open("/present/weave?scope=type:water");
    const hue = await screen.findByLabelText("Hue on the product page: shown, inherited from Paint");
    act(() => hue.focus());
    fireEvent.keyDown(hue, { key: " " });
    await waitFor(() =>
      expect(patches(asked)).toEqual([
        { scope: "type:water", field: "ss_hue", surface: "product_page", set: { shown: false }, version: null },
      ]),
    );
    fireEvent.keyDown(hue, { key: "w" });
    expect(here()).toContain("why=ss_hue");
  });

  it("chooses a block by Shift with arrows and sets it together", async () => {
    const asked = open("/present/weave?scope=type:water");
    const first = await screen.findByLabelText(/Title on the product page/);
    act(() => first.focus());
    fireEvent.keyDown(first, { key: "ArrowRight", shiftKey: true });
    fireEvent.keyDown(document.activeElement as Element, { key: "ArrowDown", shiftKey: true });
    expect(await screen.findByText("4 cells chosen")).toBeTruthy();
    expect((await screen.findAllByText("changes 14 pages")).length).toBe(2);
    fireEvent.click(screen.getByText("Hide"));
    await waitFor(() => expect(patches(asked)).toHaveLength(1));
    const body = patches(asked)[0] as {
      cells: { field: string; surface: string; set: object; version: number | null }[];
    };
    expect(body.cells.map(({ field, surface }) => `${field} ${surface}`)).toEqual([
      "title product_page",
      "title listing_card",
      "ss_hue product_page",
      "ss_hue listing_card",
    ]);
    expect(body.cells.map(({ version }) => version)).toEqual([null, null, null, 2]);
    await waitFor(() => expect(screen.queryByText("4 cells chosen")).toBeNull());
  });

  it("lets a block go by Esc, and by going on without Shift", async () => {
    open("/present/weave?scope=type:water");
    const first = await screen.findByLabelText(/Title on the product page/);
    act(() => first.focus());
    fireEvent.keyDown(first, { key: "ArrowRight", shiftKey: true });
    expect(await screen.findByText("2 cells chosen")).toBeTruthy();
    fireEvent.keyDown(document.activeElement as Element, { key: "Escape" });
    expect(screen.queryByText("2 cells chosen")).toBeNull();
  });

  it("copies what another type says of fields both have, where it is not said here", () => {
    const say = (own: object) => ({
      ...WEAVE,
      groups: [{ title: "", note: "", rows: [{ ...ROW, cells: [cell("product_page", "here", own)] }] }],
    });
    const mine = say({ label: "above" }) as unknown as Schemas["WeaveOut"];
    const theirs = say({ label: "above", shown: false }) as unknown as Schemas["WeaveOut"];
    expect(taken(mine, theirs)).toEqual([
      { field: "ss_hue", surface: "product_page", version: 1, set: { shown: false } },
    ]);
    expect(taken(theirs, theirs)).toEqual([]);
  });
});

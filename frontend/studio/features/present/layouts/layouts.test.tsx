import { fireEvent, screen, waitFor } from "@testing-library/react";
import { Route, Routes } from "react-router";
import { describe, expect, it } from "vitest";
import type { Schemas } from "../../../api/client";
import { here, META, serve, show, writes } from "../../../testing";
import LayoutsView from "./LayoutsView";
import { copiesOf, moveAll, outermost, stepOfAll } from "./several";
import { copyOf, type Kind, linesOf, newIn, outlineOf, placeFor, placesOf, rowsOf, stepOf, type View } from "./tree";

const block = (id: string, kind: string, more: object = {}, steps: string[] = []) => ({
  block: { id, kind, ...more },
  layout: "page",
  steps,
  pages: null,
});
const VIEW = {
  key: "own",
  name: "Page of paints",
  surface: "product_page",
  base: "page",
  version: 1,
  built_in: false,
  regions: [
    {
      id: "main",
      blocks: [block("top", "columns", { regions: ["left", "right"] }), block("words", "words", { words: "Hi" })],
    },
    { id: "left", blocks: [block("pictures", "pictures")] },
    { id: "right", blocks: [block("title", "title"), block("price", "price", {}, ["moved"])] },
  ],
  taken_away: [],
  lost: [],
  uses: [],
  builders: [],
  shown: 14,
} as unknown as View;
const kind = (code: string, more: Partial<Kind> = {}): Kind =>
  ({
    code,
    name: code,
    help: "",
    group: "Of the product",
    members: [],
    kinds: [],
    most_fields: 0,
    fewest_regions: 0,
    most_regions: 0,
    once: false,
    becomes: {},
    surfaces: ["product_page"],
    ...more,
  }) as Kind;
const KINDS = ["title", "price", "pictures"]
  .map((code) => kind(code))
  .concat(kind("words", { becomes: { as_field: "text", as_copy: "copy" } }))
  .concat(
    kind("columns", { fewest_regions: 2, most_regions: 4 }),
    kind("panels", { most_regions: 1 }),
    kind("section", { most_regions: 1 }),
  );

describe("the blocks of a layout", () => {
  it("stand in reading order, those in parts below what holds them", () => {
    expect(linesOf(VIEW).map(({ id, depth, after }) => [id, depth, after])).toEqual([
      ["top", 0, null],
      ["pictures", 1, null],
      ["title", 1, null],
      ["price", 1, "title"],
      ["words", 0, "top"],
    ]);
    expect(placesOf(VIEW, KINDS).map(({ words }) => words)).toEqual([
      "the page itself",
      "columns, part 1",
      "columns, part 2",
    ]);
  });

  it("go one step on among their neighbours, then to the part beside, then out", () => {
    expect(stepOf(VIEW, "title", 1)).toEqual({ op: "move", id: "title", region: "right", after: "price" });
    expect(stepOf(VIEW, "price", -1)).toEqual({ op: "move", id: "price", region: "right", after: null });
    expect(stepOf(VIEW, "title", -1)).toEqual({ op: "move", id: "title", region: "left", after: "pictures" });
    expect(stepOf(VIEW, "price", 1)).toEqual({ op: "move", id: "price", region: "main", after: "top" });
    expect(stepOf(VIEW, "pictures", -1)).toEqual({ op: "move", id: "pictures", region: "main", after: null });
    expect(stepOf(VIEW, "words", 1)).toBeNull();
    // Into what has parts: its last from below, its first from above.
    expect(stepOf(VIEW, "words", -1)).toEqual({ op: "move", id: "words", region: "right", after: "price" });
    const turned = {
      ...VIEW,
      regions: VIEW.regions.map((r) => (r.id === "main" ? { ...r, blocks: [...r.blocks].reverse() } : r)),
    };
    expect(stepOf(turned as View, "words", 1)).toEqual({ op: "move", id: "words", region: "left", after: null });
    expect(stepOf(VIEW, "gone", 1)).toBeNull();
  });

  it("stand under their parts, and an empty part takes a block straight", () => {
    const empty = { ...VIEW, regions: VIEW.regions.map((r) => (r.id === "left" ? { ...r, blocks: [] } : r)) } as View;
    expect(outlineOf(empty).map((row) => ("id" in row ? row.id : `${row.words}${row.empty ? ", empty" : ""}`))).toEqual(
      ["top", "part 1, empty", "part 2", "title", "price", "words"],
    );
    expect(placeFor(empty, "top", null)).toEqual({ region: "left", after: null });
    expect(placeFor(empty, null, "left")).toEqual({ region: "left", after: null });
    expect(placeFor(empty, null, "right")).toEqual({ region: "right", after: "price" });
    expect(placeFor(empty, "title", "left")).toEqual({ region: "right", after: "title" });
    expect(placeFor(VIEW, "top", null)).toEqual({ region: "main", after: "top" });
    expect(placeFor(VIEW, null, "gone")).toEqual({ region: "main", after: "words" });
    expect(placesOf(VIEW, KINDS, "top").map(({ region }) => region)).toEqual(["main"]);
    expect(copyOf({ id: "words", kind: "words", words: "Hi" })).toEqual({ kind: "words", words: "Hi" });
  });

  it("go together, side by side, and those within others along with them", () => {
    const ids = (...some: string[]) => new Set(some);
    expect(outermost(VIEW, ids("title", "top", "words")).map(({ id }) => id)).toEqual(["top", "words"]);
    expect(stepOfAll(VIEW, ids("title", "price"), 1)).toEqual([
      { op: "move", id: "title", region: "main", after: "top" },
      { op: "move", id: "price", region: "main", after: "title" },
    ]);
    expect(stepOfAll(VIEW, ids("pictures", "price"), -1)).toEqual([
      { op: "move", id: "pictures", region: "main", after: null },
      { op: "move", id: "price", region: "main", after: "pictures" },
    ]);
    expect(stepOfAll(VIEW, ids("top", "words"), 1)).toEqual([]);
    expect(moveAll(VIEW, ids("words", "title"), "right")).toEqual([
      { op: "move", id: "title", region: "right", after: "price" },
      { op: "move", id: "words", region: "right", after: "title" },
    ]);
  });

  it("are copied with all that stands in their parts", () => {
    const copies = copiesOf(VIEW, new Set(["top"]), "k");
    expect(copies.map(({ block, region, after }) => [(block as { id: string }).id, region, after])).toEqual([
      ["columns_k_1", "main", "top"],
      ["pictures_k_2", "columns_k_1_1", null],
      ["title_k_3", "columns_k_1_2", null],
      ["price_k_4", "columns_k_1_2", "title_k_3"],
    ]);
    expect((copies[0]?.block as { regions: string[] } | undefined)?.regions).toEqual([
      "columns_k_1_1",
      "columns_k_1_2",
    ]);
    expect(copiesOf(VIEW, new Set(["words", "price"]), "k").map(({ region, after }) => [region, after])).toEqual([
      ["main", "words"],
      ["main", "price_k_1"],
    ]);
  });

  it("that are new in a view are told, and layouts stand below their base", () => {
    const more = { ...VIEW, regions: [...VIEW.regions, { id: "x", blocks: [] }] } as View;
    expect(newIn(more, VIEW)).toEqual([]);
    expect(newIn(VIEW, { ...VIEW, regions: VIEW.regions.slice(0, 2) } as View)).toEqual(["title", "price"]);
    const layout = (key: string, base: string) => ({ thing: { key, name: key, surface: "product_page", base } });
    expect(rowsOf([layout("b", "a"), layout("a", ""), layout("c", "b")], "product_page")).toEqual([
      { key: "a", name: "a", depth: 0 },
      { key: "b", name: "b", depth: 1 },
      { key: "c", name: "c", depth: 2 },
    ]);
  });
});

const TOUCHED = {
  types: 1,
  products: 3,
  surfaces: { product_page: 3 },
  effects: null,
  moves: { gone: [], come: [] },
  variants: null,
  lines: [],
  exact: true,
};

function open(view: View, at = "/present/layouts/own") {
  const asked = serve({
    "GET /api/meta": { ...META, blocks: KINDS, icons: [] },
    "GET /api/session": { rights: ["look", "edit"] },
    "GET /api/layouts": {
      things: [
        { thing: { key: "page", name: "Product page", surface: "product_page", base: "" }, version: 0, built_in: true },
        {
          thing: { key: "own", name: "Page of paints", surface: "product_page", base: "page" },
          version: 1,
          built_in: false,
        },
      ],
    },
    "GET /api/layouts/own/view": view,
    "GET /api/shared_copies": { things: [] },
    "GET /api/layouts/own/alike": { layouts: [], differing: [] },
    "GET /api/changes": { changes: [] },
    "GET /api/product_types": { things: [] },
    "GET /api/collections": { things: [] },
    "GET /api/record_types": { things: [] },
    "GET /api/weave/cell": { version: 4, properties: [] },
    "POST /api/display_settings/consequences": TOUCHED,
    "PATCH /api/display_settings": { version: 5 },
    "GET /api/example": { product: 4, title: "Peat" },
    "GET /api/products/4": { id: 4, title: "Peat", type: "water" },
    "POST /api/layouts/own/edits": { ...view, version: 2 },
    "GET /api/arrangements": { key: null, view: { ...view, key: "page_of_peat", base: "page", built_in: true } },
    "POST /api/arrangements/edits": { ...view, key: "page_of_peat", version: 2 },
    "GET /api/layouts/page_of_peat/view": { ...view, key: "page_of_peat", version: 2 },
    "POST /api/layouts/page_of_peat/edits": { ...view, key: "page_of_peat", version: 3 },
    "POST /api/layouts/own/blocks/words/copy": view,
    "POST /api/layouts/own/blocks/words/field": view,
    "POST /api/layouts/own/edits/preview": {
      consequences: TOUCHED,
      builders: [
        { key: "child", name: "Child", lost: [{ key: "set:title", words: "title changed: it is there no more" }] },
      ],
      view,
    },
  });
  show(
    <Routes>
      <Route path="/present/layouts/:key?" element={<LayoutsView />} />
    </Routes>,
    at,
  );
  return asked;
}
const edits = (asked: ReturnType<typeof serve>) =>
  writes(asked)
    .filter(([, path]) => path.endsWith("/edits"))
    .map(([, , body]) => (body as { edits: Schemas["LayoutEditsIn"]["edits"] }).edits);
const bodies = (asked: ReturnType<typeof serve>) =>
  writes(asked)
    .filter(([, path]) => path.endsWith("/edits"))
    .map(([, , body]) => body as Schemas["LayoutEditsIn"]);

describe("the layout editor", () => {
  it("shows the layout on a page, and picks a block that is pressed there", async () => {
    open(VIEW);
    await screen.findByText("Add a block");
    const frame = await screen.findByTitle("A page with this layout");
    expect(frame.getAttribute("src")).toBe("/proof/surface/product_page/4?layout=own&arrange=1");
    fireEvent(
      window,
      new MessageEvent("message", { origin: window.location.origin, data: { arrange: { part: "title" } } }),
    );
    await waitFor(() => expect(here()).toContain("block=title"));
    fireEvent(window, new MessageEvent("message", { origin: window.location.origin, data: { arrange: { step: 1 } } }));
    await waitFor(() => expect(here()).toContain("block=price"));
  });

  it("moves and takes away a block by keys, and does what was dragged on the page", async () => {
    const asked = open(VIEW, "/present/layouts/own?block=price");
    await screen.findByText("Add a block");
    const price = await screen.findByRole("option", { name: /price/ });
    fireEvent.keyDown(price, { key: "ArrowUp", altKey: true });
    await waitFor(() => expect(edits(asked)).toHaveLength(1));
    const dropped = { drop: "title", region: "main", after: "words" };
    fireEvent(window, new MessageEvent("message", { origin: window.location.origin, data: { arrange: dropped } }));
    fireEvent.keyDown(price, { key: "Delete" });
    await waitFor(() => expect(edits(asked)).toHaveLength(3));
    expect(edits(asked)).toEqual([
      [{ op: "move", id: "price", region: "right", after: null }],
      [{ op: "move", id: "title", region: "main", after: "words" }],
      [{ op: "remove", id: "price" }],
    ]);
  });

  it("chooses several by Shift and Ctrl, and does one thing with all of them as one edit", async () => {
    const asked = open(VIEW, "/present/layouts/own?block=title");
    const row = (name: RegExp) => screen.findByRole("option", { name });
    const title = await row(/title/);
    title.focus();
    fireEvent.keyDown(title, { key: "ArrowDown", shiftKey: true });
    expect(await screen.findByText("2 blocks chosen")).toBeTruthy();
    fireEvent.click(await row(/Hi/), { ctrlKey: true });
    expect(await screen.findByText("3 blocks chosen")).toBeTruthy();
    expect(here()).toContain("block=title");
    fireEvent.click(screen.getByText("Hide them"));
    fireEvent.keyDown(await row(/price/), { key: "ArrowUp", altKey: true });
    fireEvent.keyDown(await row(/price/), { key: "Delete" });
    await waitFor(() => expect(edits(asked)).toHaveLength(3));
    expect(edits(asked)[0]?.map(({ op, id }) => [op, id])).toEqual([
      ["set", "title"],
      ["set", "price"],
      ["set", "words"],
    ]);
    expect(edits(asked)[1]?.map(({ op, id }) => [op, id])).toEqual([
      ["move", "title"],
      ["move", "price"],
      ["move", "words"],
    ]);
    expect(edits(asked)[2]).toEqual(["title", "price", "words"].map((id) => ({ op: "remove", id })));
  });

  it("folds what holds others by keys, but for what holds the block that is picked", async () => {
    open(VIEW, "/present/layouts/own?block=words");
    await screen.findByRole("option", { name: /Hi/ });
    const top = document.querySelector("[data-mark=top]") as HTMLElement;
    fireEvent.keyDown(top, { key: "ArrowLeft" });
    expect(screen.queryByRole("option", { name: /price/ })).toBeNull();
    expect(top.textContent).toContain("folded");
    fireEvent.keyDown(top, { key: "ArrowRight" });
    fireEvent.click(await screen.findByRole("option", { name: /price/ }));
    await waitFor(() => expect(here()).toContain("block=price"));
    fireEvent.keyDown(top, { key: "ArrowLeft" });
    expect(screen.getByRole("option", { name: /price/ })).toBeTruthy();
  });

  it("finds a block among many by its name or kind", async () => {
    const more = Array.from({ length: 8 }, (_, at) => block(`w${at}`, "words", { words: `Note ${at}` }));
    const regions = VIEW.regions.map((r) => (r.id === "main" ? { ...r, blocks: [...r.blocks, ...more] } : r));
    open({ ...VIEW, regions } as View);
    const box = await screen.findByLabelText("Find on this layout");
    fireEvent.change(box, { target: { value: "note 6" } });
    await waitFor(() =>
      expect(screen.getAllByRole("option").map(({ textContent }) => textContent)).toEqual(["Note 6"]),
    );
    fireEvent.keyDown(box, { key: "Enter" });
    await waitFor(() => expect(here()).toContain("block=w6"));
    fireEvent.change(box, { target: { value: "nothing like it" } });
    expect(await screen.findByText(/No block here is called so/)).toBeTruthy();
  });

  it("tries edits first where other layouts build on it, says what follows, and makes them together", async () => {
    const asked = open({ ...VIEW, builders: ["child"] } as View, "/present/layouts/own?block=title");
    expect(await screen.findByText(/1 layout builds on this one/)).toBeTruthy();
    await screen.findByText("Add a block");
    fireEvent.keyDown(screen.getByRole("option", { name: /title/ }), { key: "Delete" });
    expect(await screen.findByText("1 change tried")).toBeTruthy();
    expect(screen.getByText(/Child loses title changed/)).toBeTruthy();
    const frame = screen.getByTitle("A page with this layout");
    expect(frame.getAttribute("src")).toContain("edited=own&edits=%5B%7B%22op%22%3A%22remove%22");
    expect(edits(asked)).toEqual([]);
    fireEvent.click(screen.getByText("Make it so"));
    await waitFor(() => expect(edits(asked)).toEqual([[{ op: "remove", id: "title" }]]));
    await waitFor(() => expect(screen.queryByText("1 change tried")).toBeNull());
  });

  it("names the version that an edit is made of: that of the last answer", async () => {
    const asked = open(VIEW, "/present/layouts/own?block=price");
    await screen.findByText("Add a block");
    const price = await screen.findByRole("option", { name: /price/ });
    fireEvent.keyDown(price, { key: "ArrowUp", altKey: true });
    fireEvent.keyDown(price, { key: "Delete" });
    await waitFor(() => expect(edits(asked)).toHaveLength(2));
    expect(bodies(asked).map(({ version }) => version)).toEqual([1, 2]);
  });

  it("keeps what is tried over a reload, and tries it again on the version it was made of", async () => {
    sessionStorage.setItem("tried own", JSON.stringify({ edits: [{ op: "remove", id: "title" }], version: 1 }));
    const asked = open({ ...VIEW, version: 7, builders: ["child"] } as View);
    expect(await screen.findByText("1 change tried")).toBeTruthy();
    fireEvent.click(screen.getByText("Make it so"));
    await waitFor(() => expect(bodies(asked).map(({ version }) => version)).toEqual([1]));
    await waitFor(() => expect(sessionStorage.getItem("tried own")).toBeNull());
  });

  it("begins an arrangement with its first edit, and goes on in it", async () => {
    const asked = open(VIEW, "/present/layouts/~own?scope=product%3A4&surface=product_page&block=price");
    expect(await screen.findByText(/begins with the first change/)).toBeTruthy();
    const src = () => screen.getByTitle("A page with this layout").getAttribute("src");
    await waitFor(() => expect(src()).toContain("layout=page&arrange=1"));
    expect(writes(asked)).toEqual([]);
    const price = await screen.findByRole("option", { name: /price/ });
    fireEvent.keyDown(price, { key: "ArrowUp", altKey: true });
    fireEvent.keyDown(price, { key: "ArrowDown", altKey: true });
    await waitFor(() => expect(here()).toBe("/present/layouts/page_of_peat?block=price"));
    await waitFor(() => expect(writes(asked)).toHaveLength(2));
    expect(writes(asked).map(([, path]) => path)).toEqual([
      "/api/arrangements/edits",
      "/api/layouts/page_of_peat/edits",
    ]);
    expect(bodies(asked)[0]).toMatchObject({ scope: "product:4", surface: "product_page", version: null });
    expect(bodies(asked)[1]?.version).toBe(2);
  });

  it("is chosen by a press, never by a key on the list, and tells what that touches", async () => {
    const asked = open(VIEW, "/present/layouts/own?pane=use");
    const list = await screen.findByLabelText("Choose it for");
    fireEvent.keyDown(list, { key: "ArrowDown" });
    fireEvent.change(list, { target: { value: "shop" } });
    expect(writes(asked)).toEqual([]);
    fireEvent.click(screen.getByText("Choose it"));
    expect(await screen.findByText("Page of paints for the whole shop")).toBeTruthy();
    expect(screen.getByText("1 type, 3 products: 3 pages will differ.")).toBeTruthy();
    expect(writes(asked).map(([method]) => method)).toEqual(["POST"]);
    fireEvent.click(screen.getByText("Change it", { selector: "button" }));
    await waitFor(() => expect(writes(asked).at(-1)?.[1]).toBe("/api/display_settings"));
    expect(writes(asked).at(-1)?.[2]).toMatchObject({ scope: "shop", set: { layout: "own" }, version: 4 });
  });

  it("makes typed words shared copy or a field by a press", async () => {
    const asked = open(VIEW, "/present/layouts/own?block=words");
    fireEvent.click(await screen.findByText("Make this shared copy"));
    fireEvent.click(screen.getByText("Make this a field"));
    await waitFor(() =>
      expect(writes(asked).map(([, path]) => path)).toEqual([
        "/api/layouts/own/blocks/words/copy",
        "/api/layouts/own/blocks/words/field",
      ]),
    );
  });

  it("leaves what comes with the shop as it is", async () => {
    open({ ...VIEW, built_in: true } as View);
    expect(await screen.findByText(/comes with the shop and stays as it is/)).toBeTruthy();
    expect(screen.queryByText("Add a block")).toBeNull();
  });
});

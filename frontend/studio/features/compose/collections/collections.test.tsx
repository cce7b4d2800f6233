import { fireEvent, screen, waitFor, within } from "@testing-library/react";
import { Route, Routes } from "react-router";
import { describe, expect, it } from "vitest";
import { META, NOTHING_TOUCHED, Refusal, serve, show, writes } from "../../../testing";
import { CollectionsSection } from "../../fill/products/CollectionsSection";
import { pastedWords } from "./ByHand";
import CollectionsView from "./CollectionsView";

const thing = (key: string, name: string, more = {}) => ({
  key,
  name,
  slug: key,
  rank: "1",
  picked: [] as number[],
  kept_out: [] as number[],
  condition: null as unknown,
  order: "title",
  filled: {},
  ...more,
});
const row = (key: string, name: string, more = {}, rest = {}) => ({
  thing: thing(key, name, more),
  version: 4,
  products: 3,
  gathered: true,
  words: "",
  tests: [],
  ...rest,
});
const CHEAP = { field: "price", op: "le", value: "10" };
const OUT = row(
  "out",
  "For the field",
  { picked: [7, 5], condition: CHEAP },
  {
    tests: [{ where: [], words: "Price at most €10.00", values: ["€10.00"], typed: ["10"] }],
  },
);
const FIRST = row("first", "A first box", {}, { products: 0 });
const member = (id: number, title: string, how: string, reason = "") => ({
  id,
  title,
  sku: `S-${id}`,
  type_name: "Easels",
  picture: null,
  offered: true,
  how,
  reason,
});
const MEMBERS = {
  rows: [
    member(7, "Sandbar", "picked"),
    member(5, "Wader", "picked"),
    member(9, "Lemon", "matches", "Price at most €10.00"),
  ],
  total: 3,
  next: null,
  kept_out: [member(3, "Slate", "kept out")],
};
const EFFECT = {
  products: 3,
  sets: [{ key: "notes", name: "Field notes", fields: 1, products: 3, filled: 2 }],
  settings: [
    {
      key: "collection:out/contents/listing_card",
      field: "Contents",
      words: "shown on the listing card",
      products: 3,
      follows: 2,
      others: ["A first box"],
    },
  ],
};
const PRICE = {
  key: "price",
  name: "Price",
  control: "words",
  list: null,
  example: "9.80",
  tests: [{ op: "le", words: "at most", takes: "one" }],
};

function view(at = "/compose/collections/out", answers = {}) {
  const asked = serve({
    "GET /api/meta": META,
    "GET /api/collections": { things: [FIRST, OUT] },
    "GET /api/collections/out/members": MEMBERS,
    "GET /api/collections/out/effect": EFFECT,
    "GET /api/collections/first/members": { rows: [], total: 0, next: null, kept_out: [] },
    "GET /api/collections/first/effect": { products: 0, sets: [], settings: [] },
    "GET /api/conditions/fields": { fields: [PRICE] },
    "GET /api/field_sets": { things: [] },
    "GET /api/find": { hits: [] },
    "PATCH /api/collections/out": OUT,
    ...answers,
  });
  show(
    <Routes>
      <Route path="/compose/collections/:key?" element={<CollectionsView />} />
    </Routes>,
    at,
  );
  return asked;
}

describe("the view of collections", () => {
  it("tells who is in, how each got in, and what the collection says", async () => {
    view();
    expect(await screen.findByText("1st, by hand")).toBeTruthy();
    expect(screen.getByText("2nd, by hand")).toBeTruthy();
    expect(screen.getByText("Price at most €10.00")).toBeTruthy();
    expect(screen.getByText("Kept out by hand")).toBeTruthy();
    expect(await screen.findByText("2 of 3 products; 1 follows A first box")).toBeTruthy();
    expect(screen.getByText("1 field on 3 products, 2 values filled")).toBeTruthy();
  });

  it("puts those picked in another order by keys, from what stands", async () => {
    const asked = view();
    fireEvent.keyDown(await screen.findByLabelText(/Move Sandbar/), { key: "ArrowDown", altKey: true });
    await waitFor(() => expect(writes(asked)).toHaveLength(1));
    expect(writes(asked)[0]).toEqual(["PATCH", "/api/collections/out", { picked: [5, 7], version: 4 }]);
  });

  it("moves a collection among the others", async () => {
    const asked = view(undefined, { "PUT /api/collections/out/place": OUT });
    fireEvent.keyDown(await screen.findByLabelText(/Move For the field/), { key: "ArrowUp", altKey: true });
    await waitFor(() => expect(writes(asked)).toEqual([["PUT", "/api/collections/out/place", { after: null }]]));
  });

  it("puts a condition to use only when asked, with what comes and goes", async () => {
    const found = {
      looked_at: 9,
      count: 4,
      fresh: 2,
      leaving: 1,
      next: null,
      words: "",
      tests: [],
      first: [member(9, "Lemon", "in"), member(11, "Peat", "new")],
    };
    const asked = view(undefined, { "POST /api/conditions/matches": found });
    const box = await screen.findByRole("textbox", { name: "Price" });
    fireEvent.change(box, { target: { value: "12" } });
    expect(await screen.findByText("4 match")).toBeTruthy();
    expect(screen.getByText(/2 come in, 1 goes out/)).toBeTruthy();
    expect(within(screen.getByLabelText("The first that match")).getByText("Peat")).toBeTruthy();
    fireEvent.click(screen.getByRole("button", { name: "Leave it" }));
    expect((screen.getByRole("textbox", { name: "Price" }) as HTMLInputElement).value).toBe("10");
    fireEvent.change(screen.getByRole("textbox", { name: "Price" }), { target: { value: "12" } });
    await screen.findByText("4 match");
    fireEvent.keyDown(screen.getByRole("textbox", { name: "Price" }), { key: "Enter", ctrlKey: true });
    await waitFor(() => expect(writes(asked).some(([method]) => method === "PATCH")).toBe(true));
    expect(writes(asked).at(-1)).toEqual([
      "PATCH",
      "/api/collections/out",
      { condition: { all: [{ field: "price", op: "le", typed: "12" }] }, version: 4 },
    ]);
  });

  it("puts in a pasted column, and keeps in the box what was not found", async () => {
    const asked = view(undefined, {
      "POST /api/collections/out/skus": { found: 2, unknown: ["NONE"], twice: [] },
      "POST /api/collections/out/hands/consequences": NOTHING_TOUCHED,
    });
    const box = await screen.findByRole("textbox", { name: /Title or SKU/ });
    fireEvent.change(box, { target: { value: "A-1\nA-2\nNONE" } });
    fireEvent.click(screen.getByRole("button", { name: "Keep out" }));
    expect(await screen.findByText("2 products kept out; not found, and left in the box: NONE")).toBeTruthy();
    expect((box as HTMLTextAreaElement).value).toBe("NONE");
    const body = { text: "A-1\nA-2\nNONE", to: "kept_out" };
    expect(writes(asked)).toEqual([
      ["POST", "/api/collections/out/hands/consequences", body],
      ["POST", "/api/collections/out/skus", body],
    ]);
    expect(document.activeElement).toBe(box);
  });

  it("puts in a product found by its title, at Enter", async () => {
    const asked = view(undefined, {
      "GET /api/find": { hits: [{ noun: "product", key: "12", name: "Heron Round 8", note: "HRN-R8" }] },
      "POST /api/collections/out/hands": OUT,
      "POST /api/collections/out/hands/consequences": NOTHING_TOUCHED,
    });
    const box = await screen.findByRole("textbox", { name: /Title or SKU/ });
    fireEvent.change(box, { target: { value: "heron" } });
    await screen.findByText("HRN-R8");
    fireEvent.keyDown(box, { key: "Enter" });
    await waitFor(() =>
      expect(writes(asked).at(-1)).toEqual(["POST", "/api/collections/out/hands", { ids: [12], to: "picked" }]),
    );
    expect(await screen.findByText("Heron Round 8 put in")).toBeTruthy();
  });

  it("tells what putting in changes before it does, and leaves what was typed", async () => {
    const asked = view(undefined, {
      "POST /api/collections/out/hands/consequences": {
        ...NOTHING_TOUCHED,
        types: 1,
        products: 2,
        surfaces: { product_page: 2 },
      },
    });
    const box = await screen.findByRole("textbox", { name: /Title or SKU/ });
    fireEvent.change(box, { target: { value: "A-1\nA-2" } });
    fireEvent.click(screen.getByRole("button", { name: "Put in" }));
    const dialog = within(await screen.findByRole("dialog", { name: /^Put in the products of the list: / }));
    expect(await dialog.findByText(/2 pages will differ/)).toBeTruthy();
    fireEvent.click(dialog.getByText("Leave it"));
    await waitFor(() => expect(screen.queryByRole("dialog")).toBeNull());
    expect((box as HTMLTextAreaElement).value).toBe("A-1\nA-2");
    expect(writes(asked)).toHaveLength(1);
  });

  it("says what belongs where there is nothing", async () => {
    view("/compose/collections/first");
    expect(await screen.findByText("No product is in it yet")).toBeTruthy();
    expect(screen.getByText(/Nobody comes in by itself yet/)).toBeTruthy();
    expect(await screen.findByText("It says nothing of its products yet.")).toBeTruthy();
  });

  it("tells that products are still being put together, and begins again", async () => {
    const asked = view(undefined, {
      "GET /api/collections": { things: [FIRST, { ...OUT, gathered: false }] },
      "POST /api/collections/out/gather": new Refusal(422, "busy", { message: "Being gathered just now" }),
    });
    fireEvent.click(await screen.findByRole("button", { name: "begin again" }));
    await waitFor(() => expect(writes(asked)).toHaveLength(1));
    expect(screen.getByRole("link", { name: "see how far" }).getAttribute("href")).toBe("/release/jobs");
  });
});

describe("a pasted list", () => {
  it("is told in a line, however long", () => {
    const unknown = Array.from({ length: 9 }, (_, index) => `N${index}`);
    expect(pastedWords({ found: 1, unknown, twice: ["A"] }, "picked")).toBe(
      "1 product put in; not found, and left in the box: N0, N1, N2, N3, N4, N5 and 3 more; there twice: A",
    );
  });
});

describe("the collections of a product", () => {
  it("tells how it got in each, and keeps it out or lets it in again", async () => {
    const place = (key: string, name: string, inside: boolean, how: string | null) => ({ key, name, inside, how });
    const product = {
      id: 5,
      title: "Wader",
      collections: [
        place("out", "For the field", true, "matches"),
        place("box", "A first box", true, "picked"),
        place("old", "Old ones", false, "kept out"),
        place("no", "Others", false, null),
      ],
    };
    const asked = serve({
      "GET /api/collections": { things: [OUT, row("no", "Others")] },
      "POST /api/collections/out/hands": OUT,
      "POST /api/collections/out/hands/consequences": NOTHING_TOUCHED,
    });
    show(<CollectionsSection product={product as never} />);
    expect(screen.getByText("by its condition")).toBeTruthy();
    expect(screen.getByRole("button", { name: "Take out: A first box" })).toBeTruthy();
    expect(screen.getByRole("button", { name: "Let in again: Old ones" })).toBeTruthy();
    expect(screen.queryByText("Others")).toBeNull();
    fireEvent.click(screen.getByRole("button", { name: "Keep out: For the field" }));
    await waitFor(() =>
      expect(writes(asked).at(-1)).toEqual(["POST", "/api/collections/out/hands", { ids: [5], to: "kept_out" }]),
    );
  });
});

import { fireEvent, screen, waitFor, within } from "@testing-library/react";
import { describe, expect, it } from "vitest";
import { here, META, NOTHING_TOUCHED, serve, show, writes } from "../../../testing";
import type { Right } from "../../../ui/rights";
import ListingsView from "./ListingsView";

const member = (code: string, name: string, control: string, value: unknown, more = {}) => ({
  code,
  name,
  control,
  value,
  own: false,
  origin: "default",
  origin_name: "",
  choices: [],
  ...more,
});
const MODES = [
  { value: "product", label: "one a product" },
  { value: "by", label: "by options" },
];
const TOKENS = [
  { value: "sku", label: "the SKU" },
  { value: "colour", label: "Colour" },
];
const RULE = {
  scope: "shop",
  name: "the shop",
  version: 3,
  properties: [
    member("mode", "Cards", "choice", "by", { own: true, origin: "shop", origin_name: "the shop", choices: MODES }),
    member("options", "Split by", "variant_options", ["colour"], {
      choices: [
        { value: "colour", label: "Colour" },
        { value: "size", label: "Size" },
      ],
    }),
    member("title", "Title", "phrase", "{product}", { choices: TOKENS }),
  ],
};
const CARDS = {
  products: 38,
  looked_at: 38,
  cards: 141,
  live: 38,
  most: [{ id: 4, title: "Artist Watercolour", cards: 12 }],
  alike: [{ id: 4, title: "Artist Watercolour", cards: 12 }],
  alike_in_all: 7,
  gone: [],
  gone_in_all: 0,
  mend: "{product}[, {colour}]",
  mended_at: "shop",
};
const thing = (key: string, name: string) => ({ thing: { key, name, slug: key }, path: name });

function open(more: Record<string, unknown> = {}, address = "/present/listings", rights?: readonly Right[]) {
  const asked = serve({
    "GET /api/meta": META,
    "GET /api/listing_rules": {
      rules: [
        { scope: "shop", name: "the shop", lines: ["cards by colour"] },
        { scope: "collection:winter", name: "Winter", lines: ["one card a product"] },
      ],
    },
    "GET /api/listing_rules/open": RULE,
    "GET /api/listing_rules/cards": CARDS,
    "GET /api/product_types": { things: [thing("paint", "Paint")] },
    "GET /api/collections": { things: [thing("winter", "Winter"), thing("spring", "Spring")] },
    "POST /api/display_settings/consequences": NOTHING_TOUCHED,
    "PATCH /api/display_settings": { version: 4 },
    ...more,
  });
  show(<ListingsView />, address, rights);
  return asked;
}
const put = (asked: ReturnType<typeof open>) =>
  writes(asked).flatMap(([method, , body]) => (method === "PATCH" ? [(body as { set: unknown }).set] : []));

describe("listings", () => {
  it("say what holds for the shop, where it comes from, and a way back", async () => {
    const asked = open();
    const rule = within(await screen.findByRole("region", { name: "The whole shop" }));
    fireEvent.click(rule.getByLabelText("Size"));
    await waitFor(() => expect(put(asked)).toEqual([{ options: ["colour", "size"] }]));
    fireEvent.click(rule.getByText("set here ✕"));
    expect(document.activeElement).toBe(rule.getByRole("button", { name: "one a product" }));
    await waitFor(() => expect(put(asked)).toContainEqual({ mode: null }));
    fireEvent.click(rule.getByText("+ Colour"));
    expect(document.activeElement).toBe(rule.getByLabelText("Title"));
    await waitFor(() => expect(put(asked)).toContainEqual({ title: "{product}[, {colour}]" }));
  });
  it("tell what a listing comes to, and mend titles in one press", async () => {
    const asked = open();
    expect(await screen.findByText("38 products → 141 cards, 38 live")).toBeTruthy();
    expect(screen.getByText("7 products have several cards of one title:").parentElement?.textContent).toContain(
      "Artist Watercolour and 6 more",
    );
    fireEvent.click(screen.getByText("Call them {product}[, {colour}]"));
    await waitFor(() => expect(put(asked)).toEqual([{ title: "{product}[, {colour}]" }]));
    await waitFor(() => expect(document.activeElement).toBe(screen.getByLabelText("Which listing")));
  });
  it("ask before cards differ, and change nothing until they are told to", async () => {
    const asked = open({
      "POST /api/display_settings/consequences": {
        ...NOTHING_TOUCHED,
        products: 3,
        surfaces: { listing_card: 12 },
        lines: ["cards by colour, size"],
      },
    });
    const rule = within(await screen.findByRole("region", { name: "The whole shop" }));
    fireEvent.click(rule.getByLabelText("Size"));
    const dialog = within(await screen.findByRole("dialog"));
    expect(dialog.getByText("cards by colour, size")).toBeTruthy();
    fireEvent.click(dialog.getByText("Leave it"));
    expect(put(asked)).toEqual([]);
  });
  it("let an option go that no option set has any more", async () => {
    const [mode, options, title] = RULE.properties;
    const asked = open({
      "GET /api/listing_rules/open": { ...RULE, properties: [mode, { ...options, value: ["edge", "size"] }, title] },
    });
    fireEvent.click(await screen.findByLabelText("edge, which no option set has"));
    await waitFor(() => expect(put(asked)).toEqual([{ options: ["size"] }]));
  });
  it("open an exception, and begin another", async () => {
    open();
    fireEvent.click(await screen.findByText("Collection: Winter"));
    expect(here()).toBe("/present/listings?scope=collection%3Awinter");
    const others = [...screen.getByLabelText<HTMLSelectElement>("Otherwise in a collection").options];
    expect(others.map(({ text }) => text)).toEqual(["in a collection…", "Spring"]);
    fireEvent.change(screen.getByLabelText("Otherwise in a collection"), { target: { value: "spring" } });
    expect(here()).toBe("/present/listings?scope=collection%3Aspring");
  });
  it("are read by those who may only look", async () => {
    open({}, "/present/listings", ["look"]);
    await screen.findByText("38 products → 141 cards, 38 live");
    expect(screen.queryByText("Call them {product}[, {colour}]")).toBeNull();
    expect(screen.queryByLabelText("Otherwise in a collection")).toBeNull();
    expect(screen.queryByText("+ Colour")).toBeNull();
    expect(screen.getByText("set here")).toBeTruthy();
  });
});

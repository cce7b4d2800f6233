import { fireEvent, screen, waitFor, within } from "@testing-library/react";
import { describe, expect, it } from "vitest";
import { NOTHING_TOUCHED, serve, show, writes } from "../../../testing";
import HousekeepingView from "./HousekeepingView";

const finding = (sort: string, key: string, name: string, more = {}) => ({
  sort,
  noun: "field",
  key,
  name,
  words: `${name} is ${sort}`,
  other: null,
  other_name: "",
  changed: "2026-03-01T12:00:00Z",
  version: 3,
  ...more,
});
const FINDINGS = [
  finding("unused", "ss_old", "Old note"),
  finding("unused", "hues", "Hues", { noun: "value_list" }),
  finding("alike", "ss_maker", "Maker", { other: "ss_makers", other_name: "Makers" }),
];
const TOUCHED = { moves: 3, differ: { count: 0, name: "products" }, examples: [], definitions: ["Origin"], job: null };

function view(merge: unknown = TOUCHED, findings: unknown[] = FINDINGS) {
  const asked = serve({
    "GET /api/housekeeping": { findings },
    "POST /api/fields/ss_maker/merge": merge,
    "POST /api/fields/ss_makers/merge": merge,
  });
  show(<HousekeepingView />);
  return asked;
}

describe("housekeeping", () => {
  it("tells what is to tidy, each with the place it stands", async () => {
    view();
    expect(await screen.findByText("3 things to tidy")).toBeTruthy();
    expect(screen.getByText("Old note").getAttribute("href")).toBe("/define/fields/ss_old");
    expect(screen.getByText("Hues").getAttribute("href")).toBe("/define/lists/hues");
    expect(screen.getByText("Makers").getAttribute("href")).toBe("/define/fields/ss_makers");
    expect(screen.getAllByText("Merge…")).toHaveLength(1);
  });
  it("removes several in one stroke, after telling what that touches", async () => {
    const asked = serve({
      "GET /api/housekeeping": { findings: FINDINGS },
      "POST /api/removal/consequences": NOTHING_TOUCHED,
      "POST /api/removal": { done: true },
    });
    show(<HousekeepingView />);
    fireEvent.click(await screen.findByLabelText("Tick Old note"));
    fireEvent.click(screen.getByLabelText("Tick Hues"), { shiftKey: true });
    expect(screen.queryByLabelText("Tick Maker")).toBeNull();
    fireEvent.click(screen.getByRole("button", { name: "Remove them" }));
    const things = [
      { noun: "field", key: "ss_old", version: 3 },
      { noun: "value_list", key: "hues", version: 3 },
    ];
    await waitFor(() => expect(writes(asked)).toHaveLength(2));
    expect(writes(asked)).toEqual([
      ["POST", "/api/removal/consequences", { things }],
      ["POST", "/api/removal", { things }],
    ]);
    await waitFor(() => expect(screen.queryByText("2 things ticked")).toBeNull());
  });
  it("says when all is tidy", async () => {
    view(TOUCHED, []);
    expect(await screen.findByText("All is tidy")).toBeTruthy();
  });
  it("merges the one way or the other, after telling what moves", async () => {
    const asked = view();
    fireEvent.click(await screen.findByText("Merge…"));
    const dialog = within(await screen.findByRole("dialog"));
    expect((await dialog.findByText("3 values")).parentElement?.textContent).toContain("move to Makers, in Origin too");
    fireEvent.click(dialog.getByRole("button", { name: "Maker" }));
    expect((await dialog.findByText("3 values")).parentElement?.textContent).toContain("move to Maker,");
    fireEvent.click(dialog.getByRole("button", { name: "Merge" }));
    await waitFor(() => expect(screen.queryByRole("dialog")).toBeNull());
    const last = writes(asked).at(-1);
    expect([last?.[1], last?.[2]]).toEqual(["/api/fields/ss_makers/merge", { into: "ss_maker", apply: true }]);
  });
  it("holds back while products have other values in both", async () => {
    view({
      ...TOUCHED,
      differ: { count: 1, name: "product" },
      examples: [{ noun: "product", key: "4", name: "Board 850" }],
    });
    fireEvent.click(await screen.findByText("Merge…"));
    const dialog = within(await screen.findByRole("dialog"));
    expect((await dialog.findByRole("alert")).textContent).toContain("1 product has a value in both");
    expect(dialog.getByText("Board 850").getAttribute("href")).toBe("/fill/products/4?field=ss_maker");
    expect(dialog.getByRole<HTMLButtonElement>("button", { name: "Merge" }).disabled).toBe(true);
  });
});

import { fireEvent, screen, waitFor } from "@testing-library/react";
import { Route, Routes } from "react-router";
import { describe, expect, it, vi } from "vitest";
import { Refused } from "../api/client";
import SetsView from "../features/compose/sets/SetsView";
import { ChangeRows } from "../history/ChangeRows";
import { here, META, Refusal, serve, show, writes } from "../testing";
import { NewThing } from "./NewThing";

const field = (key: string, name: string) => ({
  thing: { key, name, kind: "text" },
  own: true,
  version: 1,
  sets: [],
  types: ["easels"],
  products: 4,
  filled: 3,
  surfaces: [],
});
const FIELDS = {
  things: [field("ss_wood", "Wood"), field("ss_folds", "Folds flat"), field("ss_holds", "Holds up to")],
};

const EASELS = {
  thing: {
    key: "easels",
    name: "Easel basics",
    sections: [
      { key: "s1", name: "Make", fields: ["ss_wood"] },
      { key: "s2", name: "Use", fields: ["ss_folds"] },
    ],
    collections: [],
  },
  version: 2,
  types: ["easels"],
  products: 4,
};

function sets(answers = {}) {
  const asked = serve({
    "GET /api/meta": META,
    "GET /api/field_sets": { things: [EASELS] },
    "GET /api/fields": FIELDS,
    "GET /api/product_types": { things: [] },
    "GET /api/collections": { things: [] },
    "PATCH /api/field_sets/easels": EASELS,
    ...answers,
  });
  show(
    <Routes>
      <Route path="/compose/sets/:key?" element={<SetsView />} />
    </Routes>,
    "/compose/sets/easels",
  );
  return asked;
}

const sections = (body: unknown) =>
  (body as { sections: { name: string; fields: string[] }[] }).sections.map((section) => [
    section.name,
    ...section.fields,
  ]);

describe("the view of field sets", () => {
  it("moves a field across sections by keys", async () => {
    const asked = sets();
    fireEvent.keyDown(await screen.findByLabelText(/Move Wood/), { key: "ArrowDown", altKey: true });
    await waitFor(() => expect(writes(asked)).toHaveLength(1));
    expect(sections(writes(asked)[0]?.[2])).toEqual([["Make"], ["Use", "ss_wood", "ss_folds"]]);
  });

  it("tells how much it touches before a field is taken off", async () => {
    const asked = sets({
      "POST /api/field_sets/easels/consequences": {
        types: 1,
        products: 4,
        surfaces: { product_page: 3, listing_card: 0 },
        effects: null,
        moves: { gone: [], come: [] },
        variants: null,
        exact: true,
      },
    });
    fireEvent.click(await screen.findByLabelText("Take off Wood"));
    expect(await screen.findByText("1 type, 4 products: 3 pages will differ.")).toBeTruthy();
    expect(writes(asked).filter(([method]) => method === "PATCH")).toHaveLength(0);
    fireEvent.click(screen.getByText("Change it"));
    await waitFor(() => expect(writes(asked).filter(([method]) => method === "PATCH")).toHaveLength(1));
  });

  it("can be left as it is", async () => {
    const asked = sets({
      "POST /api/field_sets/easels/consequences": {
        types: 1,
        products: 4,
        surfaces: { product_page: 3, listing_card: 0 },
        effects: null,
        moves: { gone: [], come: [] },
        variants: null,
        exact: true,
      },
    });
    fireEvent.click(await screen.findByLabelText("Take off Wood"));
    fireEvent.click(await screen.findByText("Leave it"));
    await waitFor(() => expect(screen.queryByRole("dialog")).toBeNull());
    expect(writes(asked).filter(([method]) => method === "PATCH")).toHaveLength(0);
  });

  it("adds a section under a key nobody has", async () => {
    const asked = sets();
    fireEvent.click(await screen.findByText("Add section"));
    await waitFor(() => expect(writes(asked)).toHaveLength(1));
    expect(sections(writes(asked)[0]?.[2]).at(-1)).toEqual(["Section 3"]);
  });

  it("says when a name can't be so", async () => {
    sets({ "PATCH /api/field_sets/easels": new Refusal(422, "required", { message: "A field set needs a name" }) });
    const box = await screen.findByLabelText("Name");
    fireEvent.change(box, { target: { value: " " } });
    fireEvent.blur(box);
    expect((await screen.findByRole("alert")).textContent).toBe("A field set needs a name. Mend it");
  });
});

describe("a new thing", () => {
  it("is made from its name, and a refusal keeps it open", async () => {
    const make = vi
      .fn()
      .mockRejectedValueOnce(
        new Refused(
          422,
          new Refusal(422, "long", { message: "At most 80 characters fit", help: "Shorten it" }).problem,
        ),
      )
      .mockResolvedValueOnce(undefined);
    show(<NewThing what="set" onMake={make} />);
    fireEvent.keyDown(window, { key: "n" });
    const box = await screen.findByLabelText("Name of the set");
    fireEvent.change(box, { target: { value: "Origin" } });
    fireEvent.submit(box);
    expect((await screen.findByRole("alert")).textContent).toBe("At most 80 characters fit. Shorten it");
    await waitFor(() => expect(document.activeElement).toBe(box));
    fireEvent.submit(box);
    await waitFor(() => expect(screen.queryByLabelText("Name of the set")).toBeNull());
    expect(make.mock.calls).toEqual([["Origin"], ["Origin"]]);
  });

  it("is asked for by the address, once", async () => {
    show(<NewThing what="set" onMake={async () => undefined} />, "/compose/sets?new=1");
    expect(await screen.findByLabelText("Name of the set")).toBeTruthy();
    expect(here()).toBe("/compose/sets");
  });
});

const change = (id: number, more = {}) => ({
  id,
  at: "2026-03-01T12:00:00Z",
  person: "Rosa Marsh",
  noun: "field",
  key: "ss_hair",
  name: "Hair",
  lines: [`line ${id}`],
  undone: false,
  is_undo: false,
  ...more,
});

describe("what was changed", () => {
  it("is undone and redone one by one", async () => {
    const asked = serve({
      "GET /api/changes": { changes: [change(3, { is_undo: true }), change(2), change(1, { undone: true })] },
      "POST /api/changes/3/undo": {},
      "POST /api/changes/2/undo": {},
    });
    show(<ChangeRows />);
    fireEvent.click(await screen.findByText("Redo"));
    fireEvent.click(screen.getByText("Undo"));
    await waitFor(() =>
      expect(writes(asked).map(([, path]) => path)).toEqual(["/api/changes/3/undo", "/api/changes/2/undo"]),
    );
    expect(screen.getByText("undone")).toBeTruthy();
    expect(screen.getAllByRole("link", { name: "Hair" })).toHaveLength(3);
  });

  it("goes on further back when asked, and of one thing needs no name", async () => {
    const asked = serve({
      "GET /api/changes": ({ query }: { query: URLSearchParams }) => ({
        changes: query.get("before") ? [change(1)] : Array.from({ length: 50 }, (_, at) => change(60 - at)),
      }),
    });
    show(<ChangeRows noun="field" thing="ss_hair" />);
    fireEvent.click(await screen.findByText("Show earlier ones"));
    expect(await screen.findByText("line 1")).toBeTruthy();
    expect(asked.at(-1)?.query.get("before")).toBe("11");
    expect(screen.queryByText("Show earlier ones")).toBeNull();
    expect(screen.queryByRole("link", { name: "Hair" })).toBeNull();
  });

  it("keeps to its first lines", async () => {
    serve({ "GET /api/changes": { changes: [change(1, { lines: Array.from({ length: 9 }, (_, at) => `l${at}`) })] } });
    const { unmount } = show(<ChangeRows noun="field" thing="ss_hair" />);
    expect(await screen.findByText("and 3 more")).toBeTruthy();
    unmount();
    show(<ChangeRows />);
    expect((await screen.findByText(/l0 · l1 · l2/)).textContent).toContain("l8");
  });
});

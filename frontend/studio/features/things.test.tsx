import { act, fireEvent, screen, waitFor, within } from "@testing-library/react";
import { Route, Routes } from "react-router";
import { describe, expect, it, vi } from "vitest";
import { Refused } from "../api/client";
import { here, META, Refusal, serve, show, writes } from "../testing";
import { consequencesOf, useConsequences } from "./Consequences";
import { ChangeRows } from "./history/ChangeRows";
import ListsView from "./lists/ListsView";
import { NewThing } from "./NewThing";
import SetsView from "./sets/SetsView";

const value = (code: string, label: string, more = {}) => ({ code, label, synonyms: [], retired: false, ...more });
const WOOD = {
  thing: { key: "wood", name: "Wood", values: [value("ash", "Ash"), value("elm", "Elm", { retired: true })] },
  version: 3,
  fields: ["ss_wood"],
};
const HAIR = { thing: { key: "hair", name: "Hair", values: [] }, version: 1, fields: [] };
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

function lists(at = "/define/lists/wood", answers = {}) {
  const asked = serve({
    "GET /api/meta": META,
    "GET /api/value_lists": { things: [HAIR, WOOD] },
    "GET /api/fields": FIELDS,
    "GET /api/example": { product: null, title: "" },
    ...answers,
  });
  show(
    <Routes>
      <Route path="/define/lists/:key?" element={<ListsView />} />
    </Routes>,
    at,
  );
  return asked;
}

describe("the view of value lists", () => {
  it("opens the first where none is named", async () => {
    lists("/define/lists");
    await screen.findByRole("heading", { name: "Hair" });
    expect(here()).toBe("/define/lists/hair");
    expect(screen.getByText("No values yet")).toBeTruthy();
    expect(screen.getByText("No field takes from it yet.")).toBeTruthy();
  });

  it("says when what the address names is not there", async () => {
    lists("/define/lists/gone");
    expect(await screen.findByText("There is no value list “gone”")).toBeTruthy();
  });

  it("tells where a list is used", async () => {
    lists();
    const link = await screen.findByRole("link", { name: "Wood" });
    expect(link.getAttribute("href")).toBe("/define/fields/ss_wood");
    expect(screen.getByText("1 type, 3 products filled")).toBeTruthy();
  });

  it("renames a value where it stands, with the version that was read", async () => {
    const asked = lists("/define/lists/wood", { "PATCH /api/value_lists/wood": WOOD });
    const box = await screen.findByLabelText("Label of Ash");
    fireEvent.change(box, { target: { value: "White ash" } });
    fireEvent.blur(box);
    await waitFor(() => expect(writes(asked)).toHaveLength(1));
    const [, , body] = writes(asked)[0] as [string, string, { version: number; values: { label: string }[] }];
    expect([body.version, body.values.map((value) => value.label)]).toEqual([3, ["White ash", "Elm"]]);
  });

  it("goes on from the answer of one's own write, never against it", async () => {
    let version = 3;
    const asked = lists("/define/lists/wood", {
      "PATCH /api/value_lists/wood": ({ body }: { body: { version: number; values: object[] } }) => {
        if (body.version !== version) return new Refusal(409, "clash");
        version += 1;
        return { ...WOOD, thing: { ...WOOD.thing, values: body.values }, version };
      },
    });
    const label = await screen.findByLabelText("Label of Ash");
    fireEvent.change(label, { target: { value: "White ash" } });
    fireEvent.blur(label);
    const words = screen.getByLabelText("Synonyms of Elm");
    fireEvent.change(words, { target: { value: "wych" } });
    fireEvent.blur(words);
    await waitFor(() => expect(writes(asked)).toHaveLength(2));
    const last = writes(asked)[1]?.[2] as { version: number; values: { label: string; synonyms: string[] }[] };
    expect(last.version).toBe(4);
    expect(last.values.map((value) => [value.label, ...value.synonyms])).toEqual([["White ash"], ["Elm", "wych"]]);
  });

  it("retires and brings back, never loses", async () => {
    const asked = lists("/define/lists/wood", { "PATCH /api/value_lists/wood": WOOD });
    fireEvent.click(await screen.findByText("Bring back"));
    fireEvent.click(screen.getByText("Retire"));
    await waitFor(() => expect(writes(asked)).toHaveLength(2));
    const retired = writes(asked).map(([, , body]) =>
      (body as { values: { retired: boolean }[] }).values.map((value) => value.retired),
    );
    expect(retired).toEqual([
      [false, false],
      [true, true],
    ]);
  });

  it("puts a refusal under the rows, and keeps what was typed", async () => {
    lists("/define/lists/wood", {
      "POST /api/value_lists/wood/paste": {
        ...WOOD,
        added: [],
        skipped: [{ line: 1, text: "Ash", reason: "already in the list" }],
      },
    });
    const box = await screen.findByLabelText<HTMLInputElement>("New value");
    fireEvent.change(box, { target: { value: "Ash" } });
    fireEvent.click(screen.getByText("Add value"));
    expect((await screen.findByRole("alert")).textContent).toBe("Ash: already in the list");
    expect(box.value).toBe("Ash");
  });

  it("tells what a paste would do before it is done", async () => {
    const asked = lists("/define/lists/wood", {
      "POST /api/value_lists/wood/paste": ({ body }: { body: { text: string } }) => ({
        ...WOOD,
        added: body.text.includes("Pine") ? [value("pine", "Pine")] : [],
        skipped: [{ line: 2, text: "Ash", reason: "already in the list" }],
      }),
    });
    fireEvent.click(await screen.findByText("Paste a list"));
    fireEvent.change(screen.getByLabelText("Values, one a line"), { target: { value: "Pine\nAsh" } });
    expect(await screen.findByText("Line 2, Ash: already in the list")).toBeTruthy();
    fireEvent.click(await screen.findByText("Add 1"));
    await waitFor(() => expect(screen.queryByRole("dialog")).toBeNull());
    expect(writes(asked).map(([, , body]) => (body as { apply: boolean }).apply)).toContain(true);
  });

  it("says why a list in use is not removed", async () => {
    const asked = lists("/define/lists/wood", {
      "DELETE /api/value_lists/wood": new Refusal(409, "in_use", { message: "Wood is used by the field Wood" }),
    });
    fireEvent.click(await screen.findByText("Remove this list"));
    await waitFor(() => expect(writes(asked)).toHaveLength(1));
    expect(here()).toBe("/define/lists/wood");
  });

  it("turns its pane by keys", async () => {
    lists("/define/lists/wood", { "GET /api/changes": { changes: [] } });
    await screen.findByText("Where it is used");
    act(() => void fireEvent.keyDown(window, { key: "h" }));
    expect(await screen.findByText("Nothing was changed yet")).toBeTruthy();
    act(() => void fireEvent.keyDown(window, { key: "p" }));
    expect(await screen.findByText("No product to prove with")).toBeTruthy();
    act(() => void fireEvent.keyDown(window, { key: "p" }));
    expect(await screen.findByText("Where it is used")).toBeTruthy();
  });
});

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

function Risky({ go }: { go: () => void }) {
  const [dialog, consider] = useConsequences();
  return (
    <>
      <button type="button" onClick={() => consider("Narrow it", () => consequencesOf("field", "f", {}), go)}>
        narrow
      </button>
      {dialog}
    </>
  );
}

describe("consequences", () => {
  it("that nobody could find out are said so, and wait for an answer", async () => {
    serve({
      "GET /api/meta": META,
      "POST /api/fields/f/consequences": new Refusal(500, "server", { message: "It broke" }),
    });
    const go = vi.fn();
    show(<Risky go={go} />);
    fireEvent.click(screen.getByText("narrow"));
    expect((await screen.findByRole("alert")).textContent).toContain("could not be found out: It broke");
    expect(go).not.toHaveBeenCalled();
    fireEvent.click(screen.getByText("Change it"));
    expect(go).toHaveBeenCalledOnce();
  });
  const effectsOf = (names: string[], next: string | null) => ({
    values: 9,
    wrong: names.length,
    changed: 0,
    lost: 0,
    examples: names.map((name, index) => ({
      noun: "product",
      key: String(index + 1),
      name,
      field: "f",
      how: "wrong",
      before: "850 g/m²",
      after: "at most 640 g/m²",
    })),
    next,
  });
  const touched = { types: 1, products: 2, surfaces: { product_page: 2, listing_card: 0 }, effects: null };
  it("of nothing need no asking", async () => {
    serve({ "GET /api/meta": META, "POST /api/fields/f/consequences": { ...touched, products: 0, surfaces: {} } });
    const go = vi.fn();
    show(<Risky go={go} />);
    fireEvent.click(screen.getByText("narrow"));
    await waitFor(() => expect(go).toHaveBeenCalled());
    expect(screen.queryByRole("dialog")).toBeNull();
  });
  it("name the values that would be wrong", async () => {
    const effects = effectsOf(["Board 850", "Board 640"], null);
    serve({ "GET /api/meta": META, "POST /api/fields/f/consequences": { ...touched, effects } });
    show(<Risky go={() => undefined} />);
    fireEvent.click(screen.getByText("narrow"));
    const dialog = within(await screen.findByRole("dialog"));
    expect(dialog.getByText(/^Of 9 values 2 would be wrong/).textContent).toContain("stay, marked");
    expect(dialog.getByRole("link", { name: "Board 850" }).getAttribute("href")).toBe("/fill/products/1");
    expect(dialog.queryByText(/of them$/)).toBeNull();
  });
  it("look on at the rest, and list every value", async () => {
    serve({
      "GET /api/meta": META,
      "POST /api/fields/f/consequences": { ...touched, effects: effectsOf(["A", "B", "C"], "f:3") },
      "POST /api/fields/f/effects": ({ body }: { body: { after: string } }) => {
        expect(body.after).toBe("f:3");
        return effectsOf(["D", "E", "F"], null);
      },
    });
    show(<Risky go={() => undefined} />);
    fireEvent.click(screen.getByText("narrow"));
    const dialog = within(await screen.findByRole("dialog"));
    expect(await dialog.findByText(/^Of 18 values 6 would be wrong/)).toBeTruthy();
    expect(dialog.queryByRole("link", { name: "F" })).toBeNull();
    fireEvent.click(dialog.getByText("All 6 of them"));
    expect(dialog.getByRole("link", { name: "F" })).toBeTruthy();
  });
  it("that can't be told leave the answer to the write itself", async () => {
    serve({ "GET /api/meta": META, "POST /api/fields/f/consequences": new Refusal(422, "limit_order") });
    const go = vi.fn();
    show(<Risky go={go} />);
    fireEvent.click(screen.getByText("narrow"));
    await waitFor(() => expect(go).toHaveBeenCalled());
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

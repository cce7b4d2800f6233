import { act, fireEvent, screen, waitFor, within } from "@testing-library/react";
import { Route, Routes } from "react-router";
import { describe, expect, it } from "vitest";
import { here, META, NOTHING_TOUCHED, Refusal, serve, show, writes } from "../../../testing";
import { withColour } from "../../../values/ValueDetails";
import ListsView from "./ListsView";

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

const USES = {
  values: [
    { code: "ash", held: [{ count: 7, name: "products" }], definitions: ["Of ash"] },
    { code: "elm", held: [], definitions: [] },
  ],
};

async function more(label: string) {
  const row = (await screen.findByLabelText(`Label of ${label}`)).parentElement as HTMLElement;
  fireEvent.click(within(row).getByText("More"));
  await screen.findByRole("dialog", { name: `What to do with ${label}` });
}

function lists(at = "/define/lists/wood", answers = {}) {
  const asked = serve({
    "GET /api/meta": META,
    "GET /api/value_lists": { things: [HAIR, WOOD] },
    "GET /api/fields": FIELDS,
    "GET /api/value_lists/wood/usage": USES,
    "GET /api/value_lists/hair/usage": { values: [] },
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
    expect(screen.getByText("Nothing takes from it yet.")).toBeTruthy();
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
    await more("Elm");
    fireEvent.click(screen.getByText("Bring back"));
    await more("Ash");
    fireEvent.click(screen.getByText(/^Retire/));
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
        changed: [],
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
        changed: [],
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

  it("shows how much each value is used, and those that are not", async () => {
    lists();
    expect(await screen.findByTitle("7 products")).toBeTruthy();
    fireEvent.click(await screen.findByText("1 unused value"));
    expect(screen.queryByLabelText("Label of Ash")).toBeNull();
    expect(screen.getByLabelText("Label of Elm")).toBeTruthy();
    fireEvent.click(screen.getByText("All values"));
    expect(screen.getByLabelText("Label of Ash")).toBeTruthy();
  });

  it("merges a value into another after telling what that touches", async () => {
    const asked = lists("/define/lists/wood", {
      "POST /api/value_lists/wood/merge": {
        held: [
          { count: 7, name: "products" },
          { count: 1, name: "variant" },
        ],
        made: 3,
        meeting: 1,
        definitions: ["Of ash"],
        job: null,
      },
    });
    await more("Ash");
    fireEvent.click(screen.getByText("Merge into another…"));
    const dialog = within(await screen.findByRole("dialog", { name: /^Merge Ash/ }));
    expect(dialog.getByText<HTMLButtonElement>("Merge").disabled).toBe(true);
    expect(dialog.queryByText("Ash")).toBeNull();
    fireEvent.click(dialog.getByText("Elm"));
    const words = (await dialog.findByText("7 products and 1 variant")).parentElement?.textContent;
    expect(words).toContain("so does Of ash");
    expect(words).toContain("2 variants made of Ash are made of Elm then");
    expect(words).toContain(
      "1 variant meets one made of Elm already and is retired: with the next release its stock is added to that one",
    );
    fireEvent.click(dialog.getByText("Merge"));
    await waitFor(() => expect(screen.queryByRole("dialog", { name: /^Merge Ash/ })).toBeNull());
    expect(
      writes(asked)
        .map(([, , body]) => body)
        .slice(0, 2),
    ).toEqual([
      { codes: ["ash"], into: "elm", apply: false },
      { codes: ["ash"], into: "elm", apply: true },
    ]);
  });

  it("merges several ticked ones into one of them or another", async () => {
    const asked = lists("/define/lists/wood", {
      "POST /api/value_lists/wood/merge": {
        held: [{ count: 9, name: "products" }],
        made: 0,
        meeting: 0,
        definitions: [],
        job: null,
      },
    });
    fireEvent.click(await screen.findByLabelText("Tick Ash"));
    expect(screen.queryByText("Merge them…")).toBeNull();
    fireEvent.click(screen.getByLabelText("Tick Elm"), { shiftKey: true });
    fireEvent.click(screen.getByText("Merge them…"));
    const dialog = within(await screen.findByRole("dialog", { name: "Merge 2 values into one" }));
    fireEvent.click(dialog.getByText("Elm"));
    const words = (await dialog.findByText("9 products")).parentElement?.textContent;
    expect(words).toContain("get Elm. Ash leaves the list");
    fireEvent.click(dialog.getByText("Merge"));
    await waitFor(() => expect(writes(asked).at(-1)?.[2]).toEqual({ codes: ["ash"], into: "elm", apply: true }));
  });

  it("takes a value out after telling which products hold it", async () => {
    const effects = { values: 7, wrong: 7, changed: 0, lost: 0, examples: [], next: null };
    const asked = lists("/define/lists/wood", {
      "POST /api/value_lists/wood/consequences": {
        types: 1,
        products: 4,
        surfaces: {},
        effects,
        moves: { gone: [], come: [] },
        variants: null,
      },
      "PATCH /api/value_lists/wood": WOOD,
    });
    await more("Ash");
    fireEvent.click(screen.getByText("Take out of the list"));
    expect(await screen.findByText(/^Of 7 values 7 would be wrong/)).toBeTruthy();
    fireEvent.click(screen.getByText("Change it"));
    await waitFor(() => expect(writes(asked).at(-1)?.[0]).toBe("PATCH"));
    expect(
      (writes(asked).at(-1) as [string, string, { values: { code: string }[] }])[2].values.map(({ code }) => code),
    ).toEqual(["elm"]);
  });

  it("puts colours, a short label, a note and a link on a value", async () => {
    let version = 3;
    const asked = lists("/define/lists/wood", {
      "PATCH /api/value_lists/wood": ({ body }: { body: { values: object[] } }) => {
        version += 1;
        return { ...WOOD, thing: { ...WOOD.thing, values: body.values }, version };
      },
    });
    fireEvent.click(await screen.findByLabelText("Look of Ash"));
    for (const [label, text] of [
      ["Colour 1", "#ABC"],
      ["Short label", "A"],
      ["Note", "Light"],
      ["Link", "https://a.example/ash"],
    ] as const) {
      const box = await screen.findByLabelText(label);
      fireEvent.change(box, { target: { value: text } });
      fireEvent.blur(box);
    }
    await waitFor(() => expect(writes(asked)).toHaveLength(4));
    const put = writes(asked).map(([, , body]) => (body as { values: Record<string, unknown>[] }).values[0]);
    // Each begins from what the last came to, however quickly they follow.
    const swatch = { colours: ["#aabbcc"], picture: "", short: "A", focus: [] };
    expect([put[0]?.swatch, put[1]?.swatch]).toEqual([{ ...swatch, short: "" }, swatch]);
    expect([put[3]?.swatch, put[3]?.note, put[3]?.link]).toEqual([swatch, "Light", "https://a.example/ash"]);
    expect(withColour(["#111111", "#222222"], 0, "")).toEqual(["#222222"]);
  });

  it("reads a table and tells what is added and changed", async () => {
    const asked = lists("/define/lists/wood", {
      "POST /api/value_lists/wood/table": {
        ...WOOD,
        added: [value("yew", "Yew")],
        changed: [value("ash", "White ash")],
        skipped: [],
      },
    });
    fireEvent.click(await screen.findByText("Import CSV"));
    fireEvent.change(screen.getByLabelText("Table as CSV"), { target: { value: "code,label\nash,White ash\n,Yew" } });
    expect(await screen.findByText(/White ash \(ash\)/)).toBeTruthy();
    fireEvent.click(screen.getByText("Put in 2"));
    await waitFor(() => expect(screen.queryByRole("dialog")).toBeNull());
    expect(writes(asked).map(([, , body]) => (body as { apply: boolean }).apply)).toContain(true);
  });

  it("says whether it is added to while filling", async () => {
    const asked = lists("/define/lists/wood", { "PATCH /api/value_lists/wood": WOOD });
    fireEvent.click(await screen.findByLabelText("added to while filling"));
    await waitFor(() => expect(writes(asked)[0]?.[2]).toEqual({ version: 3, grows: false }));
  });
});

describe("a long list", () => {
  const MANY = Array.from({ length: 400 }, (_, at) =>
    value(`shade-${at}`, `Shade ${String(at).padStart(3, "0")}`, { synonyms: at === 390 ? ["dusk"] : [] }),
  );
  const many = () => {
    const row = { ...WOOD, thing: { ...WOOD.thing, values: MANY } };
    return lists("/define/lists/wood", {
      "GET /api/value_lists": { things: [row] },
      "PATCH /api/value_lists/wood": row,
      "POST /api/value_lists/wood/consequences": NOTHING_TOUCHED,
    });
  };

  it("is found in by label, code and synonyms", async () => {
    many();
    const box = await screen.findByRole("searchbox", { name: "Find a value" });
    fireEvent.keyDown(document.body, { key: "f" });
    expect(document.activeElement).toBe(box);
    fireEvent.change(box, { target: { value: "dusk" } });
    expect(await screen.findByLabelText("Label of Shade 390")).toBeTruthy();
    await waitFor(() => expect(screen.queryByLabelText("Label of Shade 000")).toBeNull());
    expect(here()).toContain("value=dusk");
    fireEvent.change(box, { target: { value: "no such" } });
    expect(await screen.findByText(/No value has “no such”/)).toBeTruthy();
  });

  it("has several ticked with Shift, and retired, moved and taken out in one stroke", async () => {
    const asked = many();
    fireEvent.click(await screen.findByLabelText("Tick Shade 002"));
    fireEvent.click(screen.getByLabelText("Tick Shade 005"), { shiftKey: true });
    expect(await screen.findByText("4 values ticked")).toBeTruthy();
    fireEvent.click(screen.getByText("Retire them"));
    await waitFor(() => expect(writes(asked).filter(([method]) => method === "PATCH")).toHaveLength(1));
    const sent = () => {
      const [, , body] = writes(asked)
        .filter(([method]) => method === "PATCH")
        .at(-1) as [string, string, unknown];
      return (body as { values: typeof MANY }).values;
    };
    expect(sent().flatMap(({ code, retired }) => (retired ? [code] : []))).toEqual(
      [2, 3, 4, 5].map((at) => `shade-${at}`),
    );
    expect(screen.queryByText("4 values ticked")).toBeNull();
    fireEvent.click(screen.getByLabelText("Tick Shade 009"));
    fireEvent.click(await screen.findByText("To the start"));
    await waitFor(() => expect(sent()[0]?.code).toBe("shade-9"));
    fireEvent.click(screen.getByLabelText("Tick Shade 001"));
    fireEvent.click(screen.getByLabelText("Tick Shade 000"), { shiftKey: true });
    fireEvent.click(await screen.findByText("Take them out"));
    await waitFor(() =>
      expect(
        sent()
          .slice(0, 1)
          .map(({ code }) => code),
      ).toEqual(["shade-2"]),
    );
    expect(sent()).toHaveLength(398);
  });
});

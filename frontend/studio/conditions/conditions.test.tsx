import { fireEvent, screen, waitFor } from "@testing-library/react";
import { useState } from "react";
import { describe, expect, it } from "vitest";
import { Refused } from "../api/client";
import { serve, show } from "../testing";
import { ConditionBuilder } from "./ConditionBuilder";
import { type Asked, fromTree, type Group, isGroup, newTest, toTree, withAdded, withNode } from "./tree";
import { useMatches, wrongIn } from "./useMatches";

const test = (op: string, takes = "one") => ({ op, words: op.replaceAll("_", " "), takes });
const FIELDS: Asked[] = [
  {
    key: "type",
    name: "Type",
    control: "type",
    list: null,
    target: null,
    example: "",
    tests: [test("is"), test("any_of", "many")],
  },
  {
    key: "contents",
    name: "Contents",
    control: "words",
    list: null,
    target: null,
    example: "15 ml",
    tests: [test("le"), test("between", "two"), test("empty", "none")],
  },
  {
    key: "elastic",
    name: "Elastic band",
    control: "yes_no",
    list: null,
    target: null,
    example: "",
    tests: [test("is"), test("filled", "none")],
  },
  {
    key: "suits",
    name: "Suits",
    control: "list",
    list: "suits",
    target: null,
    example: "",
    tests: [test("is"), test("any_of", "many")],
  },
];
const [TYPE, CONTENTS, ELASTIC] = FIELDS as [Asked, Asked, Asked, Asked];
const KEPT = {
  any: [
    {
      all: [
        { field: "type", op: "is", value: "paint" },
        { field: "contents", op: "le", value: { amount: "15", unit: "ml" } },
      ],
    },
    { none: [{ field: "elastic", op: "is", value: true }] },
  ],
};
const TOLD = [
  { where: ["any", 0, "all", 0], words: "", values: ["Paint"], typed: ["paint"] },
  { where: ["any", 0, "all", 1], words: "", values: ["15 ml"], typed: ["15 ml"] },
  { where: ["any", 1, "none", 0], words: "", values: ["Yes"], typed: [true] },
];

describe("a condition as a tree", () => {
  it("comes back as it was when nothing is touched", () => {
    expect(toTree(fromTree(KEPT, TOLD), FIELDS).tree).toEqual(KEPT);
    expect(toTree(fromTree(null, []), FIELDS).tree).toEqual({ all: [] });
    const single = { field: "elastic", op: "is", value: true };
    expect(toTree(fromTree(single, []), FIELDS).tree).toEqual({ all: [single] });
  });

  it("leaves out what says too little, and tells where each test stands", () => {
    let group = fromTree(null, []);
    const unsaid = newTest(TYPE);
    const said = { ...newTest(CONTENTS), typed: ["15 ml"] };
    group = withAdded(withAdded(group, group.id, unsaid), group.id, said);
    const { tree, places, count } = toTree(group, FIELDS);
    expect(tree).toEqual({ all: [{ field: "contents", op: "le", typed: "15 ml" }] });
    expect([...places]).toEqual([['["all",0]', said.id]]);
    expect(count).toBe(1);
  });

  it("takes both ends of a range, and no value where none is asked for", () => {
    const between = { ...newTest(CONTENTS), op: "between", typed: ["5 ml", ""] };
    const group = (node: typeof between): Group => ({ id: "g", join: "all", parts: [node] });
    expect(toTree(group(between), FIELDS).count).toBe(0);
    const whole = { ...between, typed: ["5 ml", "15 ml"] };
    expect(toTree(group(whole), FIELDS).tree).toEqual({
      all: [{ field: "contents", op: "between", typed: ["5 ml", "15 ml"] }],
    });
    expect(toTree(group({ ...between, op: "empty", typed: [] }), FIELDS).tree).toEqual({
      all: [{ field: "contents", op: "empty" }],
    });
  });

  it("lets a group go with its last test", () => {
    const group = fromTree(KEPT, TOLD);
    const inner = group.parts[1];
    if (!inner || !isGroup(inner) || !inner.parts[0]) throw new Error("no group");
    expect(withNode(group, inner.parts[0].id, null).parts).toHaveLength(1);
  });
});

describe("a refusal", () => {
  const refused = (where: (string | number)[]) =>
    new Refused(422, {
      code: "number",
      message: "Not a number",
      where,
      help: "Type one",
      clashes: [],
      your_lines: [],
      their_lines: [],
    });
  it("is told at the test it stands in", () => {
    const places = new Map([['["any",1]', "b"]]);
    expect([...wrongIn(refused(["any", 1, "value"]), places)]).toEqual([["b", "Not a number. Type one"]]);
    expect([...wrongIn(refused(["condition"]), places)]).toEqual([["", "Not a number. Type one"]]);
  });
});

let latest: Group | null = null;

function Builder({ start }: { start: Group }) {
  const [group, setGroup] = useState(start);
  latest = group;
  const look = useMatches(group, FIELDS, "outdoors", true);
  return (
    <>
      <ConditionBuilder value={group} wrong={look.wrong} onChange={setGroup} />
      <output aria-label="count">
        {look.found ? `${look.found.count}${look.found.done ? "" : "…"}, ${look.found.fresh} new` : "none"}
      </output>
    </>
  );
}

const slice = (more: object) => ({
  looked_at: 2,
  count: 2,
  fresh: 1,
  leaving: 0,
  first: [],
  next: null,
  words: "",
  tests: [],
  ...more,
});

function build(matches: unknown = slice({})) {
  return serve({
    "GET /api/conditions/fields": { fields: FIELDS },
    "GET /api/product_types": { things: [{ thing: { key: "paint", name: "Paint" }, path: "Paint" }] },
    "GET /api/value_lists": {
      things: [
        {
          thing: {
            key: "suits",
            values: [
              { code: "studio", label: "Studio" },
              { code: "sea", label: "By the sea" },
            ],
          },
        },
      ],
    },
    "POST /api/conditions/matches": matches,
  });
}

async function pick(button: string, field: string) {
  fireEvent.click(await screen.findByRole("button", { name: button }));
  fireEvent.click(await screen.findByText(field));
}

describe("the builder", () => {
  it("is built from nothing, and sums up what is found in slices", async () => {
    const pages = [slice({ count: 5, fresh: 5, next: 40 }), slice({ count: 3, fresh: 0 })];
    let at = 0;
    const start = fromTree(null, []);
    const asked = build(() => pages[at++] ?? pages[1]);
    show(<Builder start={start} />);
    await pick("Choose what to ask", "Contents");
    const box = await screen.findByRole("textbox", { name: "Contents" });
    await waitFor(() => expect(document.activeElement).toBe(box));
    fireEvent.change(box, { target: { value: "15 ml" } });
    await waitFor(() => expect(screen.getByLabelText("count").textContent).toBe("8, 5 new"));
    const bodies = asked.filter(({ path }) => path.endsWith("matches")).map(({ body }) => body);
    expect(bodies).toEqual([
      { condition: { all: [{ field: "contents", op: "le", typed: "15 ml" }] }, collection: "outdoors", after: 0 },
      { condition: { all: [{ field: "contents", op: "le", typed: "15 ml" }] }, collection: "outdoors", after: 40 },
    ]);
  });

  it("joins tests, and groups of them, in words", async () => {
    const start = fromTree({ all: [{ field: "contents", op: "le", value: { amount: "15", unit: "ml" } }] }, [
      { where: ["all", 0], words: "", values: ["15 ml"], typed: ["15 ml"] },
    ]);
    build();
    show(<Builder start={start} />);
    await pick("but not…", "Elastic band");
    fireEvent.change(await screen.findByRole("combobox", { name: "Elastic band" }), { target: { value: "yes" } });
    expect(toTree(latest as Group, FIELDS).tree).toEqual({
      all: [
        { field: "contents", op: "le", value: { amount: "15", unit: "ml" } },
        { none: [{ field: "elastic", op: "is", typed: "yes" }] },
      ],
    });
    expect(screen.getByText("none of these")).toBeTruthy();
    fireEvent.click(screen.getByRole("button", { name: "make it one of these" }));
    expect(Object.keys(toTree(latest as Group, FIELDS).tree)).toEqual(["any"]);
    fireEvent.click(screen.getByRole("button", { name: "Take the test of Elastic band away" }));
    expect(screen.queryByText("none of these")).toBeNull();
  });

  it("keeps what was typed when another test is chosen", async () => {
    const start = fromTree({ all: [{ field: "contents", op: "le", value: {} }] }, [
      { where: ["all", 0], words: "", values: ["15 ml"], typed: ["15 ml"] },
    ]);
    build();
    show(<Builder start={start} />);
    fireEvent.change(await screen.findByRole("combobox", { name: "Test of Contents" }), {
      target: { value: "between" },
    });
    fireEvent.change(screen.getByRole("textbox", { name: "Contents, second value" }), { target: { value: "1 l" } });
    expect(toTree(latest as Group, FIELDS).tree).toEqual({
      all: [{ field: "contents", op: "between", typed: ["15 ml", "1 l"] }],
    });
    fireEvent.change(screen.getByRole("combobox", { name: "Test of Contents" }), { target: { value: "empty" } });
    expect(screen.queryByRole("textbox")).toBeNull();
  });

  it("chooses of types and lists, one or several", async () => {
    const start: Group = {
      id: "g",
      join: "all",
      parts: [newTest(TYPE), { ...newTest(FIELDS[3] as Asked), op: "any_of" }],
    };
    build();
    show(<Builder start={start} />);
    fireEvent.click(await screen.findByRole("button", { name: "Suits: choose" }));
    fireEvent.click(await screen.findByText("Studio"));
    fireEvent.click(await screen.findByText("By the sea"));
    fireEvent.keyDown(document.activeElement ?? document.body, { key: "Escape" });
    await waitFor(() => expect(screen.queryByText("Tick as many as hold, then Esc.")).toBeNull());
    fireEvent.click(screen.getByRole("button", { name: "Type: choose" }));
    fireEvent.click(await screen.findByText("Paint"));
    expect(toTree(latest as Group, FIELDS).tree).toEqual({
      all: [
        { field: "type", op: "is", typed: "paint" },
        { field: "suits", op: "any_of", typed: ["studio", "sea"] },
      ],
    });
  });

  it("says at its place what can't be read", async () => {
    const { Refusal } = await import("../testing");
    const start: Group = { id: "g", join: "all", parts: [{ ...newTest(CONTENTS), typed: ["lots"] }, newTest(ELASTIC)] };
    build(new Refusal(422, "number", { message: "Not a number", where: ["all", 0, "value"], help: "Type one" }));
    show(<Builder start={start} />);
    expect((await screen.findByRole("alert")).textContent).toBe("Not a number. Type one");
    expect(screen.getByLabelText("count").textContent).toBe("none");
  });
});

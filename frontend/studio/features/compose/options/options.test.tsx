import { fireEvent, screen, waitFor, within } from "@testing-library/react";
import { Route, Routes } from "react-router";
import { describe, expect, it } from "vitest";
import { META, Refusal, serve, show, writes } from "../../../testing";
import { type Rule, toggledCell, without, wordsOf } from "./leaveOuts";
import OptionSetsView from "./OptionSetsView";
import { codesOf, typedOptions } from "./typedOptions";
import { keyOf, NO_EFFECT, newValue } from "./useOptionSet";

const KINDS = [
  {
    code: "variant",
    name: "makes variants",
    makes_variants: true,
    chooses: true,
    several: false,
    default: true,
    control: "pick",
    limits: [],
  },
  {
    code: "text",
    name: "text",
    makes_variants: false,
    chooses: false,
    several: false,
    default: true,
    control: "line",
    limits: [],
  },
];
const option = (key: string, name: string, values: string[], more = {}) => ({
  key,
  name,
  kind: values.length > 0 ? "variant" : "text",
  description: "",
  required: true,
  default: "",
  takes: "own",
  list: "",
  values: values.map((label) => newValue(label.toLowerCase(), label)),
  limits: {},
  effect: NO_EFFECT,
  ...more,
});
const SET = {
  thing: {
    key: "tubes",
    name: "Tubes",
    options: [option("colour", "Colour", ["Lemon", "Peat"]), option("size", "Size", ["Small", "Large"])],
    left_out: [] as Rule[],
    price: "add",
    weight: "add",
    cost: "add",
    sku: "extend",
    separator: "-",
    condition: null,
    picked: [],
    kept_out: [],
  },
  version: 3,
  types: [],
  products: 2,
  gathered: true,
  words: "",
  tests: [],
  effect_words: { colour: { lemon: { price: "+ €1.20" } } },
  stocks: {},
};
const VARIANTS = {
  products: 2,
  kept: 6,
  added: 0,
  back: 0,
  retired: 2,
  retired_stock: 7,
  skus: 0,
  prices: 1,
  sku_examples: [],
  price_examples: [{ product: 5, title: "Watercolour", choice: "Peat · Small", before: "9.80", after: "11.00" }],
  retired_examples: [
    { product: 5, title: "Watercolour", choice: "Peat · Large", before: "7 in stock", after: "retired" },
  ],
  whole: true,
};
const QUOTE = {
  quantity: 1,
  base: "€9.80",
  based_on: "",
  lines: [{ option: "colour", name: "Colour", chosen: "Lemon", does: "", amount: "€1.20", charge: "each" }],
  each: "€11.00",
  once: null,
  total: "€11.00",
  unit_price: null,
  weight: null,
  cost: null,
  margin: null,
  sku: "T-LEM",
  available: null,
  problems: [],
};
const value = (code: string, label: string, state = "offered", words = "") => ({
  code,
  label,
  swatch: { colours: [], picture: "", short: "", focus: [] },
  state,
  words,
  effect: "",
});
const TRIED = {
  product: 5,
  title: "Watercolour",
  options: [
    {
      set: "tubes",
      key: "colour",
      name: "Colour",
      kind: "variant",
      control: "pick",
      makes_variants: true,
      description: "",
      required: true,
      chooses: true,
      several: false,
      given: "lemon",
      words: "Lemon",
      values: [value("lemon", "Lemon"), value("peat", "Peat", "left_out", "Large is not made in Peat")],
    },
  ],
  quote: QUOTE,
  formula: "2 × 2 − 1 = 3",
  count: 3,
  cells: ["in", "out", "in", "left"],
  clashes: [{ code: "option_twice", words: "Size is in both", sets: ["tubes", "more"], option: "size" }],
  wrong: null,
};
const ANSWERS = {
  "GET /api/meta": { ...META, option_kinds: KINDS, uploads: [] },
  "GET /api/option_sets": { things: [SET] },
  "GET /api/value_lists": { things: [] },
  "GET /api/option_sets/tubes/remarks": {
    remarks: [{ option: "colour", value: "peat", code: "no_swatch", words: "no swatch yet", other: "", sides: [] }],
  },
  "POST /api/option_sets/tubes/try": TRIED,
};
const at = (answers: Record<string, unknown> = {}) => {
  const asked = serve({ ...ANSWERS, ...answers });
  show(
    <Routes>
      <Route path="/compose/options/:key?" element={<OptionSetsView />} />
    </Routes>,
    "/compose/options/tubes",
  );
  return asked;
};

describe("options typed in lines", () => {
  it("make variants with values, and are texts without", () => {
    const made = typedOptions("Tube size: 5 ml, 15 ml, 5 ml\n\nName on the tube\nSize:\nSize: S");
    expect(made.map(({ key, kind }) => [key, kind])).toEqual([
      ["tube_size", "variant"],
      ["name_on_the_tube", "text"],
      ["size", "text"],
      ["size_2", "variant"],
    ]);
    expect(made[0]?.values?.map(({ code, label }) => [code, label])).toEqual([
      ["5-ml", "5 ml"],
      ["15-ml", "15 ml"],
    ]);
  });
  it("have keys and codes that are nobody else's", () => {
    expect(keyOf("Größe", new Set())).toBe("gro_e");
    expect(keyOf("3 sizes", new Set(["o_3_sizes"]))).toBe("o_3_sizes_2");
    expect(codesOf(["A!", "a", "…"])).toEqual(["a", "a-2", "option"]);
  });
});

describe("what is left out", () => {
  const rules: Rule[] = [{ colour: ["peat", "chalk"], size: ["l"] }, { edge: ["cut"] }];
  it("is toggled pair by pair, and rules alike are one", () => {
    const more = toggledCell(rules, "colour", "lemon", "size", "l");
    expect(more).toEqual([{ edge: ["cut"] }, { colour: ["peat", "chalk", "lemon"], size: ["l"] }]);
    const fewer = toggledCell(more, "colour", "chalk", "size", "l");
    expect(fewer).toEqual([{ edge: ["cut"] }, { colour: ["peat", "lemon"], size: ["l"] }]);
    expect(toggledCell([{ colour: ["peat"], size: ["l"] }], "colour", "peat", "size", "l")).toEqual([]);
  });
  it("takes off the rule that was shown, wherever it stands by then", () => {
    expect(without([{ edge: ["cut"] }, ...rules], rules[0] as Rule, 0)).toEqual([{ edge: ["cut"] }, { edge: ["cut"] }]);
    expect(without(rules, { gone: ["x"] }, 5)).toEqual(rules);
  });
  it("is told in words", () => {
    expect(
      wordsOf(
        rules[0] as Rule,
        (key) => key,
        (_, code) => code,
      ),
    ).toBe("colour peat or chalk, with size l");
  });
});

describe("an option set", () => {
  it("is tried as shoppers meet it", async () => {
    const asked = at();
    await screen.findByText("2 × 2 − 1 = 3");
    expect(screen.getByText("2 in stock · 1 sold out · 1 left out")).toBeTruthy();
    expect(screen.getByRole("button", { name: "Peat: Large is not made in Peat" }).className).toContain("left_out");
    expect(screen.getAllByText("€11.00").length).toBe(2);
    expect(screen.getByText(/Size is in both/)).toBeTruthy();
    fireEvent.click(screen.getByRole("button", { name: "Peat: Large is not made in Peat" }));
    await waitFor(() => {
      const last = writes(asked).at(-1)?.[2] as { choices: Record<string, string> };
      expect(last.choices.colour).toBe("peat");
    });
  });

  it("tells what follows for variants before it is changed", async () => {
    const touched = {
      types: 0,
      products: 0,
      surfaces: {},
      effects: null,
      moves: { gone: [], come: [] },
      variants: VARIANTS,
    };
    const asked = at({
      "POST /api/option_sets/tubes/consequences": touched,
      "PATCH /api/option_sets/tubes": SET,
    });
    const box = await screen.findByLabelText("price of Peat");
    fireEvent.change(box, { target: { value: "1.20" } });
    fireEvent.blur(box);
    const dialog = await screen.findByRole("dialog");
    expect(within(dialog).getByText(/2 retired with 7 in stock, 6 kept/)).toBeTruthy();
    expect(within(dialog).getByText(/9.80 → 11.00/)).toBeTruthy();
    expect(writes(asked).some(([method]) => method === "PATCH")).toBe(false);
    fireEvent.click(within(dialog).getByRole("button", { name: "Change it" }));
    await waitFor(() => expect(writes(asked).some(([method]) => method === "PATCH")).toBe(true));
    const sent = writes(asked).find(([method]) => method === "PATCH")?.[2] as { options: typeof SET.thing.options };
    expect(sent.options[0]?.values[1]?.effect.price).toEqual({ mode: "typed", value: "1.20", charge: "each" });
  });

  it("says at its place what can't be so", async () => {
    at({
      "POST /api/option_sets/tubes/consequences": new Refusal(422, "number"),
      "PATCH /api/option_sets/tubes": new Refusal(422, "number", { message: "Not a number", where: ["options", 0] }),
    });
    const box = await screen.findByLabelText("price of Lemon");
    fireEvent.change(box, { target: { value: "a lot" } });
    fireEvent.blur(box);
    expect((await screen.findAllByText("Not a number. Mend it")).length).toBeGreaterThan(0);
  });

  it("leaves a pair out by its cell on the grid", async () => {
    const nothing = {
      types: 0,
      products: 0,
      surfaces: {},
      effects: null,
      moves: { gone: [], come: [] },
      variants: null,
    };
    const asked = at({
      "POST /api/option_sets/tubes/consequences": nothing,
      "PATCH /api/option_sets/tubes": SET,
    });
    fireEvent.click(await screen.findByRole("button", { name: "Peat, Large: made" }));
    await waitFor(() =>
      expect(writes(asked)).toContainEqual([
        "PATCH",
        "/api/option_sets/tubes",
        { left_out: [{ colour: ["peat"], size: ["large"] }], version: 3 },
      ]),
    );
  });
});

import { act, fireEvent, screen, waitFor } from "@testing-library/react";
import { describe, expect, it, vi } from "vitest";
import type { Schemas } from "../api/client";
import { StockRow } from "../features/fill/products/StockRow";
import { here, META, Refusal, serve, show, writes } from "../testing";
import { FieldRow } from "./FieldRow";
import { ValueInput } from "./ValueInput";

type At = Schemas["EditField"];

function at(kind: string, value: unknown, more: Record<string, unknown> = {}): At {
  return {
    field: {
      key: "ss_f",
      name: "Fibre",
      label: "Fibre",
      kind,
      many: false,
      options: { list: "wood" },
      limits: {},
      need: "optional",
      audience: "shoppers",
      help: "",
      example: "Hemp",
      default: null,
      ...(more.field as object),
    },
    need: "optional",
    own: true,
    computed: false,
    example: "Hemp",
    surfaces: ["product_page"],
    value: { state: value === null ? "empty" : "good", value, typed: value, shown: "", message: null, help: "" },
    ...(more.at as object),
  } as unknown as At;
}

const LISTS = {
  things: [
    {
      thing: {
        key: "wood",
        name: "Wood",
        values: [
          { code: "ash", label: "Ash", synonyms: [], retired: false },
          { code: "elm", label: "Elm", synonyms: [], retired: true },
          { code: "pine", label: "Pine", synonyms: [], retired: false },
        ],
      },
      version: 1,
      fields: [],
    },
  ],
};

function input(at: At) {
  const fill = vi.fn();
  const typing = vi.fn();
  const asked = serve({ "GET /api/value_lists": LISTS, "GET /api/meta": META });
  show(
    <>
      <label htmlFor="f" id="f-label">
        Fibre
      </label>
      <ValueInput id="f" at={at} wrong={false} onFill={fill} onTyping={typing} />
    </>,
  );
  return { fill, typing, asked };
}

describe("the control of a kind", () => {
  it("text: says what is being typed, fills when left", () => {
    const { fill, typing } = input(at("text", "Cotton"));
    const box = screen.getByLabelText<HTMLInputElement>("Fibre");
    expect(box.placeholder).toBe("Hemp");
    fireEvent.change(box, { target: { value: "Linen" } });
    expect(typing).toHaveBeenCalledWith("Linen");
    expect(fill).not.toHaveBeenCalled();
    fireEvent.blur(box);
    expect(fill).toHaveBeenCalledWith("Linen");
  });

  it("long text: tells how much fits", () => {
    input(at("long_text", null, { field: { limits: { max_length: 300 } } }));
    expect(screen.getByLabelText("Fibre").tagName).toBe("TEXTAREA");
    expect(screen.getByText("at most 300 characters")).toBeTruthy();
  });

  it("colour: shows a good one", () => {
    input(at("colour", "#20309a"));
    expect(document.querySelector("[style*='background']")).toBeTruthy();
  });

  it("one of a list: offers what is not retired, and keeps one that is", async () => {
    const { fill } = input(at("one_of", "elm"));
    await waitFor(() => expect(screen.getAllByRole("option")).toHaveLength(4));
    expect(screen.getByText("Elm (retired)")).toBeTruthy();
    fireEvent.change(screen.getByLabelText("Fibre"), { target: { value: "pine" } });
    expect(fill).toHaveBeenCalledWith("pine");
  });

  it("one of a list: keeps what was typed and is not in it", async () => {
    const hue = at("one_of", null);
    hue.value = { ...hue.value, state: "wrong", typed: "Oak", value: null };
    input(hue);
    expect(await screen.findByText("Oak")).toBeTruthy();
  });

  it("many of a list: ticks without any key held, in the order they were ticked", async () => {
    const { fill } = input(at("many_of", ["pine"]));
    fireEvent.click(await screen.findByLabelText("Ash"));
    expect(fill).toHaveBeenCalledWith(["pine", "ash"]);
    fireEvent.click(screen.getByLabelText("Pine"));
    expect(fill).toHaveBeenLastCalledWith(["ash"]);
    expect(screen.queryByLabelText("Elm")).toBeNull();
  });

  it("yes or no: no is a value, and can be emptied", () => {
    const { fill } = input(at("yes_no", false));
    expect(screen.getByText("No").getAttribute("aria-pressed")).toBe("true");
    fireEvent.click(screen.getByText("Yes"));
    fireEvent.click(screen.getByText("Empty it"));
    expect(fill.mock.calls).toEqual([[true], [null]]);
  });

  it("several values: one box each, one more to add, and a way to take off", () => {
    const { fill } = input(at("text", ["PB29", "PR101"], { field: { many: true } }));
    const more = screen.getByPlaceholderText("one more");
    fireEvent.change(more, { target: { value: "PY3" } });
    fireEvent.blur(more);
    expect(fill).toHaveBeenLastCalledWith(["PB29", "PR101", "PY3"]);
    fireEvent.click(screen.getByLabelText("Take PB29 off"));
    expect(fill).toHaveBeenLastCalledWith(["PR101", "PY3"]);
  });
});

const PICTURES = [
  { file: "a".repeat(64), alt: "A jar", width: 9, height: 9 },
  { file: "b".repeat(64), alt: "", width: 9, height: 9 },
];

describe("pictures", () => {
  const pictures = (value: unknown, many = true) => at("picture", value, { field: { many } });

  it("are put in another order, described and taken off", () => {
    const { fill } = input(pictures(PICTURES));
    fireEvent.click(screen.getByLabelText("Put picture 1 later"));
    expect(fill).toHaveBeenLastCalledWith([PICTURES[1], PICTURES[0]]);
    const words = screen.getByLabelText("Words for picture 2");
    fireEvent.change(words, { target: { value: "A lid" } });
    fireEvent.blur(words);
    expect(fill).toHaveBeenLastCalledWith([PICTURES[1], { ...PICTURES[0], alt: "A lid" }]);
    expect(screen.getByLabelText<HTMLButtonElement>("Put picture 1 earlier").disabled).toBe(true);
    fireEvent.click(screen.getByLabelText("Take picture 1 off"));
    expect(fill).toHaveBeenLastCalledWith([{ ...PICTURES[0], alt: "A lid" }]);
  });

  it("that are good are kept when another in the same drop is not", async () => {
    const fill = vi.fn();
    let turn = 0;
    serve({
      "POST /api/pictures": () => {
        turn += 1;
        return turn === 1
          ? new Refusal(422, "file_kind", { message: "plan.svg is not a JPEG, PNG or WebP picture" })
          : { file: "c".repeat(64), width: 3, height: 4 };
      },
    });
    show(
      <ValueInput id="f" at={pictures(PICTURES.slice(0, 1))} wrong={false} onFill={fill} onTyping={() => undefined} />,
    );
    const files = [new File(["x"], "plan.svg"), new File(["y"], "jar.png")];
    await act(async () => {
      fireEvent.drop(screen.getByText("Add pictures"), { dataTransfer: { files } });
    });
    await waitFor(() =>
      expect(fill).toHaveBeenCalledWith([PICTURES[0], { file: "c".repeat(64), width: 3, height: 4, alt: "" }]),
    );
    expect(screen.getByRole("alert").textContent).toBe("plan.svg is not a JPEG, PNG or WebP picture. Mend it");
  });

  it("of a field of one are replaced, not added", () => {
    const { fill } = input(pictures(PICTURES[0], false));
    expect(screen.getByText("Choose another")).toBeTruthy();
    fireEvent.click(screen.getByLabelText("Take picture 1 off"));
    expect(fill).toHaveBeenCalledWith(null);
  });
});

describe("a row of the editor", () => {
  it("says at once what is wrong with what is typed", async () => {
    serve({ "POST /api/fields/try": { tried: [{ message: "below 60 g/m²" }] } });
    show(<FieldRow product={4} at={at("text", "300")} onFill={() => undefined} />);
    fireEvent.change(screen.getByLabelText("Fibre"), { target: { value: "3" } });
    expect((await screen.findByRole("alert")).textContent).toContain("below 60 g/m²");
  });

  it("says what is required, what helps, and what the server refused", () => {
    const { unmount } = show(
      <FieldRow product={4} at={at("text", null, { at: { need: "required" } })} onFill={() => undefined} />,
    );
    expect(screen.getByText("required, not filled")).toBeTruthy();
    unmount();
    const helped = show(
      <FieldRow
        product={4}
        at={at("text", "x", { field: { help: "From the mill sheet" } })}
        onFill={() => undefined}
      />,
    );
    expect(screen.getByText("From the mill sheet")).toBeTruthy();
    helped.unmount();
    show(<FieldRow product={4} at={at("text", "x")} refused="Another has it. Type another" onFill={() => undefined} />);
    expect(screen.getByRole("alert").textContent).toBe("Another has it. Type another");
  });

  it("asks why from each place it shows or not", async () => {
    serve({ "GET /api/meta": META });
    show(<FieldRow product={4} at={at("text", "x")} onFill={() => undefined} />, "/fill/products/4");
    fireEvent.click(await screen.findByLabelText("Fibre on the card: not shown. Why?"));
    expect(here()).toBe("/fill/products/4?on=listing_card&why=ss_f");
    expect(screen.getByLabelText("Fibre on the page: shown. Why?")).toBeTruthy();
  });

  it("of a field of staff leads to no surface", () => {
    show(<FieldRow product={4} at={at("text", "x", { field: { audience: "staff" } })} onFill={() => undefined} />);
    expect(screen.getByText("staff only")).toBeTruthy();
    expect(screen.queryByLabelText(/Why\?/)).toBeNull();
  });
});

describe("stock", () => {
  const product = { id: 4, stock: 3 } as Schemas["ProductOut"];
  it("is written with what was read, and emptied when not counted", async () => {
    const asked = serve({ "PUT /api/products/4/stock": { amount: null } });
    show(<StockRow product={product} />);
    const box = screen.getByLabelText("Stock");
    fireEvent.change(box, { target: { value: "" } });
    fireEvent.blur(box);
    await waitFor(() => expect(writes(asked)[0]?.[2]).toEqual({ expected: 3, amount: null }));
  });
  it("is a whole number, said before anything is sent", () => {
    const asked = serve({});
    show(<StockRow product={product} />);
    const box = screen.getByLabelText("Stock");
    fireEvent.change(box, { target: { value: "2.5" } });
    fireEvent.blur(box);
    expect(screen.getByRole("alert").textContent).toContain("whole number");
    expect(asked).toEqual([]);
  });
});

import { act, fireEvent, screen, waitFor, within } from "@testing-library/react";
import { useState } from "react";
import { Route, Routes, useNavigate } from "react-router";
import { describe, expect, it, vi } from "vitest";
import { Saved } from "../state/saving";
import { META, Refusal, serve, show } from "../testing";
import { TextBox } from "../ui/TextBox";
import { useConsider } from "./Considering";

function Risky({ go }: { go: () => void }) {
  const consider = useConsider();
  return (
    <button
      type="button"
      onClick={() => consider("Narrow it", { noun: "field", key: "f", changes: { limits: {} } }, go)}
    >
      narrow
    </button>
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
  const touched = {
    types: 1,
    products: 2,
    surfaces: { product_page: 2, listing_card: 0 },
    effects: null,
    moves: { gone: [], come: [] },
    variants: null,
    lines: ["shortest nothing → “4”"],
    exact: true,
  };
  it("of nothing need no asking, however many have it", async () => {
    const surfaces = { product_page: 0, listing_card: 0 };
    serve({ "GET /api/meta": META, "POST /api/fields/f/consequences": { ...touched, products: 29, surfaces } });
    const go = vi.fn();
    show(<Risky go={go} />);
    fireEvent.click(screen.getByText("narrow"));
    await waitFor(() => expect(go).toHaveBeenCalled());
    expect(screen.queryByRole("dialog")).toBeNull();
  });
  it("tell which fields go and come, and that no value is dropped", async () => {
    const move = (name: string, values: number) => ({ key: name, name, products: 2, values });
    const gone = ["A", "B", "C", "D", "E", "F"].map((name, index) => move(name, index === 0 ? 2 : 0));
    const moves = { gone, come: [move("Wood", 1)] };
    serve({ "GET /api/meta": META, "POST /api/fields/f/consequences": { ...touched, moves } });
    show(<Risky go={() => undefined} />);
    fireEvent.click(screen.getByText("narrow"));
    const dialog = within(await screen.findByRole("dialog"));
    expect(dialog.getByText(/^Products lose A \(2 values kept aside\), B, C, D, E and 1 more field\./)).toBeTruthy();
    expect(dialog.getByText("Products get Wood (1 value back from before).")).toBeTruthy();
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
  it("are looked for to the end before it is made unasked", async () => {
    serve({
      "GET /api/meta": META,
      "POST /api/fields/f/consequences": { ...touched, surfaces: {}, effects: effectsOf([], "f:3") },
      "POST /api/fields/f/effects": effectsOf(["F"], null),
    });
    const go = vi.fn();
    show(<Risky go={go} />);
    fireEvent.click(screen.getByText("narrow"));
    expect(await screen.findByText(/1 would be wrong/)).toBeTruthy();
    expect(go).not.toHaveBeenCalled();
  });
  it("are told with the change itself", async () => {
    serve({ "GET /api/meta": META, "POST /api/fields/f/consequences": touched });
    show(<Risky go={() => undefined} />);
    fireEvent.click(screen.getByText("narrow"));
    const dialog = within(await screen.findByRole("dialog"));
    expect(dialog.getByText("shortest nothing → “4”")).toBeTruthy();
    expect(await dialog.findByText("1 type, 2 products: 2 pages will differ.")).toBeTruthy();
  });
  it("that can't be told leave the answer to the write itself", async () => {
    serve({ "GET /api/meta": META, "POST /api/fields/f/consequences": new Refusal(422, "limit_order") });
    const go = vi.fn();
    show(<Risky go={go} />);
    fireEvent.click(screen.getByText("narrow"));
    await waitFor(() => expect(go).toHaveBeenCalled());
  });
});

/** Answers that come when a test says so, in the order of the questions. */
function held() {
  const waits: ((answer: unknown) => void)[] = [];
  return { answer: () => new Promise((resolve) => waits.push(resolve)), waits };
}
const DIFFERS = {
  types: 1,
  products: 2,
  surfaces: { product_page: 2 },
  effects: null,
  moves: { gone: [], come: [] },
  variants: null,
  lines: [],
  exact: true,
};

function Limits({ made }: { made: (what: string) => void }) {
  const consider = useConsider();
  const go = useNavigate();
  const [text, setText] = useState("A");
  const put = (member: string, value: string) =>
    consider("Change it", { noun: "field", key: "f", changes: { [member]: value } }, () => {
      made(`${member} ${value}`);
      setText(value);
    });
  return (
    <>
      <TextBox aria-label="pattern" value={text} onCommit={(value) => put("pattern", value)} />
      <button type="button" onClick={() => put("help", "Dry")}>
        help
      </button>
      <button type="button" onClick={() => go("/elsewhere")}>
        go
      </button>
      <Saved />
    </>
  );
}
const box = () => screen.getByLabelText<HTMLInputElement>("pattern");
function enter(text: string) {
  fireEvent.change(box(), { target: { value: text } });
  fireEvent.keyDown(box(), { key: "Enter" });
}

describe("a change that is considered", () => {
  function open() {
    const questions = held();
    const asked = serve({ "GET /api/meta": META, "POST /api/fields/f/consequences": questions.answer });
    const made = vi.fn();
    show(
      <Routes>
        <Route path="/" element={<Limits made={made} />} />
        <Route path="/elsewhere" element={<p>Elsewhere</p>} />
      </Routes>,
    );
    const next = () => waitFor(() => expect(questions.waits.length).toBeGreaterThan(0));
    const answer = async (with_: unknown) => {
      await next();
      await act(async () => questions.waits.shift()?.(with_));
    };
    return { asked, made, answer, next };
  }

  it("is dropped by a later one of the same, whose answer alone is used", async () => {
    const { made, answer, next } = open();
    enter("P");
    await next();
    enter("Q");
    await answer(DIFFERS);
    expect(screen.queryByRole("dialog")).toBeNull();
    await answer(DIFFERS);
    fireEvent.click(await screen.findByText("Change it", { selector: "button" }));
    expect(made.mock.calls).toEqual([["pattern Q"]]);
  });

  it("waits for one of another thing, and neither is lost", async () => {
    const { made, answer } = open();
    enter("P");
    fireEvent.click(screen.getByText("help"));
    await answer(DIFFERS);
    fireEvent.click(await screen.findByText("Change it", { selector: "button" }));
    await answer({ ...DIFFERS, surfaces: {} });
    await waitFor(() => expect(made.mock.calls).toEqual([["pattern P"], ["help Dry"]]));
  });

  it("is told as being saved from the press on, and carried out when one has gone elsewhere", async () => {
    const { made, answer } = open();
    fireEvent.click(screen.getByText("help"));
    expect(screen.getByText("saving…")).toBeTruthy();
    fireEvent.click(screen.getByText("go"));
    await screen.findByText("Elsewhere");
    await answer({ ...DIFFERS, surfaces: {} });
    await waitFor(() => expect(made.mock.calls).toEqual([["help Dry"]]));
  });

  it("keeps what was typed and the focus when it is left, and can be asked again", async () => {
    const { made, answer } = open();
    box().focus();
    enter("P");
    await answer(DIFFERS);
    fireEvent.click(await screen.findByText("Leave it"));
    await waitFor(() => expect(document.activeElement).toBe(box()));
    expect(box().value).toBe("P");
    expect(screen.getByText(/Not changed: Enter asks again/)).toBeTruthy();
    expect(screen.getByText("all saved")).toBeTruthy();
    fireEvent.blur(box());
    expect(made).not.toHaveBeenCalled();
    fireEvent.keyDown(box(), { key: "Enter" });
    await answer({ ...DIFFERS, surfaces: {} });
    await waitFor(() => expect(made.mock.calls).toEqual([["pattern P"]]));
    expect(screen.queryByText(/Not changed/)).toBeNull();
  });

  it("is put back by Esc after it was left", async () => {
    const { made, answer } = open();
    enter("P");
    await answer(DIFFERS);
    fireEvent.click(await screen.findByText("Leave it"));
    fireEvent.keyDown(box(), { key: "Escape" });
    expect(box().value).toBe("A");
    fireEvent.blur(box());
    expect(made).not.toHaveBeenCalled();
  });
});

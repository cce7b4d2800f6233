import { cleanup, fireEvent, screen, waitFor, within } from "@testing-library/react";
import { describe, expect, it, vi } from "vitest";
import type { Schemas } from "../api/client";
import { serve, show } from "../testing";
import { found, MOST_SHOWN } from "../ui/Choices";
import { manyOf } from "./many_of";
import { oneOf } from "./one_of";

const VALUES = Array.from({ length: 500 }, (_, number) => ({
  code: `v${number}`,
  label: number === 7 ? "Alizarin" : `Value ${number}`,
  synonyms: number === 400 ? ["madder lake"] : [],
  retired: number === 499,
}));

function input(kind: typeof oneOf, value: unknown, count = 500) {
  const fill = vi.fn();
  const field = { key: "ss_p", name: "Pigment", options: { list: "l" } };
  const at = { field, value: { value, typed: value } } as unknown as Schemas["EditField"];
  serve({ "GET /api/value_lists": { things: [{ thing: { key: "l", name: "L", values: VALUES.slice(0, count) } }] } });
  show(<kind.Editor id="f" at={at} wrong={false} onFill={fill} onTyping={() => undefined} />);
  return { fill };
}

describe("a list of 500 values", () => {
  it("is searched by label, code and synonym, what begins so first", () => {
    expect(found(VALUES, "madder").map(({ code }) => code)).toEqual(["v400"]);
    expect(
      found(VALUES, "value 49")
        .map(({ label }) => label)
        .slice(0, 2),
    ).toEqual(["Value 49", "Value 490"]);
    expect(found([...VALUES, { code: "x", label: "A value" }], "value").at(-1)?.label).toBe("A value");
    expect(found(VALUES, " ")).toHaveLength(500);
  });

  it("is chosen from while typing, and shows no more than can be looked through", async () => {
    const { fill } = input(oneOf, "v3");
    fireEvent.click(await screen.findByLabelText("Pigment: Value 3"));
    const dialog = within(await screen.findByRole("dialog"));
    expect(dialog.getAllByRole("option")).toHaveLength(MOST_SHOWN);
    expect(dialog.getByText("399 more: type on.")).toBeTruthy();
    fireEvent.change(dialog.getByPlaceholderText("Find in 499"), { target: { value: "aliz" } });
    fireEvent.click(await dialog.findByText("Alizarin"));
    expect(fill).toHaveBeenCalledWith("v7");
    fireEvent.click(screen.getByText("Empty it"));
    expect(fill).toHaveBeenLastCalledWith(null);
  });

  it("is ticked, put in an order by hand, and a retired value stays where it is chosen", async () => {
    const { fill } = input(manyOf, ["v499", "v9"]);
    expect(await screen.findByText("Value 499")).toBeTruthy();
    fireEvent.click(screen.getByText("Choose of 500"));
    const dialog = within(await screen.findByRole("dialog"));
    fireEvent.click(dialog.getByText("Alizarin"));
    expect(fill).toHaveBeenCalledWith(["v499", "v9", "v7"]);
    fireEvent.click(screen.getByLabelText("Put Value 9 earlier"));
    expect(fill).toHaveBeenLastCalledWith(["v9", "v499", "v7"]);
    fireEvent.click(screen.getByLabelText("Take Value 9 off"));
    expect(fill).toHaveBeenLastCalledWith(["v499", "v7"]);
  });
});

describe("a short list", () => {
  it("is a list box and ticks, up to 25 values", async () => {
    input(oneOf, null, 25);
    await waitFor(() => expect(screen.getAllByRole("option")).toHaveLength(26));
    cleanup();
    input(manyOf, [], 25);
    await waitFor(() => expect(screen.getAllByRole("checkbox")).toHaveLength(25));
    cleanup();
    input(manyOf, [], 26);
    expect(await screen.findByText("Choose of 26")).toBeTruthy();
  });
});

import { fireEvent, screen, waitFor } from "@testing-library/react";
import { useState } from "react";
import { describe, expect, it } from "vitest";
import { META, NOTHING_TOUCHED, serve, show, writes } from "../../../testing";
import { useTicks } from "../../../ui/useTicks";
import { FieldRows } from "./FieldRows";
import { FieldsTicked } from "./FieldsTicked";
import { withFields } from "./withFields";

const use = (key: string, name: string, more = {}) => ({
  thing: { key, name, kind: "text", label: name, help: "", options: {}, subject: "product", many: false },
  version: 5,
  own: true,
  sets: [],
  types: [],
  products: 0,
  filled: 0,
  ...more,
});
const ROWS = [use("price", "Price", { own: false }), use("a", "Grain"), use("b", "Bristle"), use("c", "Ferrule")];
const SET = {
  thing: { key: "origin", name: "Origin", sections: [{ key: "s", name: "All", fields: ["b"] }] },
  version: 2,
};

function View() {
  const [open, setOpen] = useState("");
  const ticks = useTicks(["a", "b", "c"]);
  return (
    <>
      <FieldsTicked uses={ROWS.filter(({ thing }) => ticks.ticked.has(thing.key)) as never} onDone={ticks.clear} />
      <FieldRows rows={ROWS as never} meta={META as never} ticked={ticks.ticked} onTick={ticks.tick} onOpen={setOpen} />
      <output data-testid="open">{open}</output>
    </>
  );
}

function view() {
  const asked = serve({
    "GET /api/field_sets": { things: [SET] },
    "GET /api/product_types": { things: [] },
    "POST /api/field_sets/origin/consequences": NOTHING_TOUCHED,
    "PATCH /api/field_sets/origin": SET,
    "POST /api/removal/consequences": NOTHING_TOUCHED,
    "POST /api/removal": { done: true },
  });
  show(<View />);
  return asked;
}

describe("fields that are ticked", () => {
  it("are ticked by Space and by a press with Ctrl or Shift, and never the built-in ones", async () => {
    view();
    fireEvent.keyDown(screen.getByText("Grain"), { key: " " });
    expect(screen.getByText("1 field ticked")).toBeTruthy();
    fireEvent.click(screen.getByText("Ferrule"), { shiftKey: true });
    expect(screen.getByText("3 fields ticked")).toBeTruthy();
    fireEvent.click(screen.getByText("Bristle"), { ctrlKey: true });
    expect(screen.getByText("2 fields ticked")).toBeTruthy();
    fireEvent.click(screen.getByText("price"), { ctrlKey: true });
    expect(screen.getByText("2 fields ticked")).toBeTruthy();
    expect(screen.getByTestId("open").textContent).toBe("price");
    expect(screen.getByText("Merge them…")).toBeTruthy();
  });

  it("go into a set together, but for those that stand there", async () => {
    const asked = view();
    for (const name of ["Grain", "Bristle", "Ferrule"]) fireEvent.click(await screen.findByLabelText(`Tick ${name}`));
    fireEvent.click(screen.getByText("Put them in a set"));
    fireEvent.click(await screen.findByText("Origin"));
    await waitFor(() => expect(writes(asked).at(-1)?.[0]).toBe("PATCH"));
    expect(writes(asked).at(-1)?.[2]).toEqual({
      version: 2,
      sections: [{ key: "s", name: "All", fields: ["b", "a", "c"] }],
    });
    expect(withFields([], ["a"])).toEqual([]);
  });

  it("are removed in one stroke, from the versions that were read", async () => {
    const asked = view();
    for (const name of ["Grain", "Ferrule"]) fireEvent.click(screen.getByLabelText(`Tick ${name}`));
    fireEvent.click(screen.getByRole("button", { name: "Remove them" }));
    await waitFor(() => expect(writes(asked)).toHaveLength(2));
    expect(writes(asked)[1]).toEqual([
      "POST",
      "/api/removal",
      {
        things: [
          { noun: "field", key: "a", version: 5 },
          { noun: "field", key: "c", version: 5 },
        ],
      },
    ]);
    await waitFor(() => expect(screen.queryByText("2 fields ticked")).toBeNull());
  });
});

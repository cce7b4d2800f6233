import { fireEvent, screen, waitFor, within } from "@testing-library/react";
import { describe, expect, it, vi } from "vitest";
import { Refusal, serve, show, writes } from "../../../testing";
import { Starters } from "./Starters";

const starter = (key: string, name: string, more = {}) => ({
  key,
  group: "Identity",
  name,
  kind: "text",
  help: "",
  schema_org: "",
  there: null,
  ...more,
});
const ROWS = [
  starter("brand", "Brand", { schema_org: "brand", help: "As shoppers know it" }),
  starter("maker", "Maker", { there: "ss_maker" }),
  starter("width", "Width", { group: "Size and weight", kind: "measure, cm" }),
];

async function open(answers = {}) {
  const added = vi.fn(async () => undefined);
  const asked = serve({
    "GET /api/fields/starters": { fields: ROWS },
    "GET /api/field_sets": { things: [{ thing: { key: "origin", name: "Origin" } }] },
    "GET /api/product_types": { things: [] },
    ...answers,
  });
  show(<Starters onAdded={added} />);
  fireEvent.click(screen.getByText("Starter fields"));
  await screen.findByText("Size and weight");
  return { asked, added };
}

describe("starter fields", () => {
  it("stand in groups, those that are there lead to themselves", async () => {
    await open();
    const maker = screen.getByLabelText<HTMLInputElement>("Maker");
    expect([maker.checked, maker.disabled]).toEqual([true, true]);
    expect(screen.getByText("there already").getAttribute("href")).toBe("/define/fields/ss_maker");
    expect(screen.getByText("Add 0").closest("button")?.disabled).toBe(true);
  });
  it("are ticked and added in one stroke, to a set when one is chosen", async () => {
    const { asked, added } = await open({ "POST /api/fields/starters": { keys: ["ss_brand", "ss_width"] } });
    fireEvent.click(screen.getByLabelText("Brand"));
    fireEvent.click(screen.getByLabelText("Width"));
    await within(screen.getByLabelText("Goes to")).findByText("Origin");
    fireEvent.change(screen.getByLabelText("Goes to"), { target: { value: "field_set/origin" } });
    fireEvent.click(screen.getByText("Add 2"));
    await waitFor(() => expect(added).toHaveBeenCalledWith("ss_brand"));
    expect(writes(asked)[0]?.[2]).toEqual({
      keys: ["brand", "width"],
      into: { noun: "field_set", key: "origin" },
    });
    expect(screen.queryByRole("dialog")).toBeNull();
  });
  it("are found by words, and ticked a group at once", async () => {
    await open();
    fireEvent.change(screen.getByLabelText("Find a starter field"), { target: { value: "wid" } });
    expect(screen.queryByLabelText("Brand")).toBeNull();
    fireEvent.click(screen.getByLabelText("Width"));
    fireEvent.change(screen.getByLabelText("Find a starter field"), { target: { value: "zz" } });
    expect(screen.getByText(/No starter field is like/)).toBeTruthy();
    expect(screen.getByText("Add 1")).toBeTruthy();
    fireEvent.change(screen.getByLabelText("Find a starter field"), { target: { value: "" } });
    expect(screen.queryByText(/tick all/)).toBeNull();
    fireEvent.click(screen.getByLabelText("Brand"), { shiftKey: true });
    expect(screen.getByText("Add 2")).toBeTruthy();
  });
  it("say what hinders them, and stay ticked", async () => {
    await open({ "POST /api/fields/starters": new Refusal(409, "taken", { message: "There is one", help: "Choose" }) });
    fireEvent.click(screen.getByLabelText("Brand"));
    fireEvent.click(screen.getByText("Add 1"));
    expect((await screen.findByRole("alert")).textContent).toBe("There is one. Choose");
    expect(screen.getByLabelText<HTMLInputElement>("Brand").checked).toBe(true);
  });
});

import { fireEvent, screen, waitFor } from "@testing-library/react";
import { describe, expect, it } from "vitest";
import { Refusal, serve, show, writes } from "../../../testing";
import type { Right } from "../../../ui/rights";
import FilesView from "./FilesView";

const thing = (key: string, name: string, how: string, more = {}) => ({
  noun: "field",
  key,
  name,
  how,
  lines: how === "same" ? [] : [`${name} changes`],
  clashes: [],
  your_lines: [],
  their_lines: [],
  ...more,
});
const PLAN = [
  thing("a", "Hue", "new"),
  thing("b", "Wood", "clash", { lines: [], clashes: ["label"], of_file: ["label “Hues” → “Hue”"] }),
  thing("c", "Old", "same"),
];

function view(imported: unknown = { things: PLAN }, rights: readonly Right[] = ["look", "edit"]) {
  const asked = serve({
    "GET /api/product_types": { things: [{ thing: { key: "easels", name: "Easels" }, path: "Easels" }] },
    "POST /api/definitions/import": imported,
  });
  show(<FilesView />, "/", rights);
  return asked;
}
async function choose(text: string) {
  const file = new File([text], "goods.json", { type: "application/json" });
  Object.defineProperty(file, "text", { value: async () => text });
  fireEvent.change(await screen.findByLabelText("File of definitions"), { target: { files: [file] } });
}

describe("definitions as files", () => {
  it("go out all, or a type with what it needs", async () => {
    view();
    expect(screen.getByText("Export them").getAttribute("href")).toBe("/api/definitions.json");
    await screen.findByText("Easels");
    fireEvent.change(screen.getByLabelText("What"), { target: { value: "easels" } });
    expect(screen.getByText("Export it with all it needs").getAttribute("href")).toBe(
      "/api/definitions.json?type=easels",
    );
  });
  it("come in after a plan, and say which side holds where the file says otherwise", async () => {
    const asked = view();
    await choose('{"format": 1}');
    expect((await screen.findByText("goods.json")).parentElement?.textContent).toContain(
      "3 definitions, 1 to write, 1 where the file says otherwise",
    );
    expect(screen.getByText("in the file: label “Hues” → “Hue”")).toBeTruthy();
    expect(screen.getByText("1 other is the same here.")).toBeTruthy();
    fireEvent.click(screen.getByText("take the file's"));
    await waitFor(() => expect(writes(asked)).toHaveLength(2));
    fireEvent.click(screen.getByText("Import 1"));
    const way = await screen.findByText("See what they change on pages");
    expect(way.parentElement?.textContent).toContain("1 definition written.");
    await waitFor(() => expect(document.activeElement).toBe(way));
    expect(writes(asked).map(([, , body]) => body)).toEqual([
      { bundle: { format: 1 }, from_file: false, apply: false },
      { bundle: { format: 1 }, from_file: true, apply: false },
      { bundle: { format: 1 }, from_file: true, apply: true },
    ]);
  });
  it("are refused at their fault", async () => {
    view(new Refusal(422, "bundle", { message: "This is no file of definitions", help: "Choose another" }));
    await choose("{}");
    expect((await screen.findByRole("alert")).textContent).toBe("This is no file of definitions. Choose another");
    await choose("no json");
    await waitFor(() => expect(screen.getByRole("alert").textContent).toContain("no JSON"));
  });
  it("come in by those who may edit", async () => {
    view({ things: [] }, ["look"]);
    await screen.findByText("Easels");
    expect(screen.queryByLabelText("File of definitions")).toBeNull();
  });
});

import { fireEvent, screen, waitFor } from "@testing-library/react";
import { useState } from "react";
import { describe, expect, it } from "vitest";
import type { Schemas } from "../api/client";
import { Refusal, serve, show, writes } from "../testing";
import { kindUi } from "./index";

const SESSION = { signed_in: true, name: "Rosa", rights: ["look", "edit"], csrf: "x" };

function fieldOf(many: boolean, value: unknown, named: Schemas["NamedItemOut"][] = []): Schemas["EditField"] {
  return {
    field: { key: "maker", name: "Maker", kind: "record", many, options: { record_type: "maker" }, limits: {} },
    value: { state: "good", value, typed: value, shown: "", faults: [], named },
    example: "",
  } as unknown as Schemas["EditField"];
}

function Shown(props: { many?: boolean; value?: unknown; named?: Schemas["NamedItemOut"][]; log: unknown[] }) {
  const [value, setValue] = useState<unknown>(props.value ?? null);
  const { Editor } = kindUi("record");
  return (
    <>
      <span id="x-label">Maker</span>
      <Editor
        id="x"
        at={fieldOf(props.many ?? false, value, props.named)}
        wrong={false}
        onFill={(next) => {
          props.log.push(next);
          setValue(next);
        }}
        onTyping={() => undefined}
      />
    </>
  );
}

const FOUND = {
  "GET /api/session": SESSION,
  "GET /api/references/record_type": {
    choices: [
      { item: "fen", name: "Fen Mill", note: "Maker" },
      { item: "ebb", name: "Ebb & Daughter", note: "Maker" },
    ],
  },
};

describe("a value that names a thing", () => {
  it("is shown by its name, searched for, and chosen", async () => {
    const log: unknown[] = [];
    const asked = serve(FOUND);
    show(<Shown value="fen" named={[{ item: "fen", name: "Fen Mill", address: "" }]} log={log} />);
    expect(screen.getByText("Fen Mill")).toBeTruthy();
    fireEvent.click(screen.getByText("another"));
    fireEvent.click(await screen.findByText("Ebb & Daughter"));
    await waitFor(() => expect(log).toEqual(["ebb"]));
    expect(asked.find(({ path }) => path.endsWith("record_type"))?.query.get("of")).toBe("maker");
    fireEvent.click(screen.getByLabelText("Take Ebb & Daughter off"));
    await waitFor(() => expect(log).toEqual(["ebb", null]));
  });

  it("holds several by ticking, in an order", async () => {
    const log: unknown[] = [];
    serve(FOUND);
    show(<Shown many value={["fen"]} named={[{ item: "fen", name: "Fen Mill", address: "" }]} log={log} />);
    fireEvent.click(screen.getByText("one more"));
    fireEvent.click(await screen.findByText("Ebb & Daughter"));
    await waitFor(() => expect(log.at(-1)).toEqual(["fen", "ebb"]));
    fireEvent.click(screen.getByLabelText("Put Ebb & Daughter earlier"));
    await waitFor(() => expect(log.at(-1)).toEqual(["ebb", "fen"]));
  });

  it("is made on the spot when it is missing, and chosen at once", async () => {
    const log: unknown[] = [];
    const asked = serve({
      ...FOUND,
      "GET /api/references/record_type": { choices: [] },
      "POST /api/records": { thing: { key: "reed", name: "Reed", type: "maker" }, version: 1 },
    });
    show(<Shown log={log} />);
    fireEvent.click(screen.getByText("choose a record"));
    fireEvent.change(await screen.findByPlaceholderText("Find by name"), { target: { value: " Reed " } });
    fireEvent.click(await screen.findByText("Make “Reed”"));
    await waitFor(() => expect(log).toEqual(["reed"]));
    expect(writes(asked)).toEqual([["POST", "/api/records", { name: "Reed", type: "maker" }]]);
    expect(screen.getByText("Reed")).toBeTruthy();
  });

  it("is not made by those who may only look", async () => {
    serve({ "GET /api/references/record_type": { choices: [] } });
    show(<Shown log={[]} />, "/", ["look"]);
    fireEvent.click(screen.getByText("choose a record"));
    fireEvent.change(await screen.findByPlaceholderText("Find by name"), { target: { value: "Reed" } });
    expect(await screen.findByText("None has that in its name.")).toBeTruthy();
    expect(screen.queryByText("Make “Reed”")).toBeNull();
  });

  it("says why it could not be made", async () => {
    serve({
      ...FOUND,
      "GET /api/references/record_type": { choices: [] },
      "POST /api/records": new Refusal(409, "taken", { message: "There is one", help: "Choose it" }),
    });
    show(<Shown log={[]} />);
    fireEvent.click(screen.getByText("choose a record"));
    fireEvent.change(await screen.findByPlaceholderText("Find by name"), { target: { value: "Reed" } });
    fireEvent.click(await screen.findByText("Make “Reed”"));
    expect((await screen.findByRole("alert")).textContent).toBe("There is one. Choose it");
  });
});

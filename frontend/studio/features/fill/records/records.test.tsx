import { fireEvent, screen, waitFor } from "@testing-library/react";
import { describe, expect, it, vi } from "vitest";
import { here, META, serve, show, writes } from "../../../testing";
import RecordsView from "./RecordsView";

const TYPE = {
  thing: { key: "maker", name: "Maker", fields: [], page: true },
  version: 1,
  records: 0,
  fields: [],
  values: 0,
  filled: 0,
};
const REED = {
  thing: { key: "reed", name: "Reed", type: "maker", slug: "reed", filled: {} },
  version: 1,
  type_name: "Maker",
  page: "reed",
  required_missing: 0,
};
const SESSION = { signed_in: true, name: "Rosa", rights: ["look", "edit"], csrf: "x" };

describe("records", () => {
  it("say where to begin while there are no types of them", async () => {
    serve({ "GET /api/record_types": { things: [] }, "GET /api/records": { rows: [], total: 0, next: null } });
    show(<RecordsView />);
    expect(await screen.findByText("Define, under Record types")).toBeTruthy();
  });

  it("say how the first is made, and make it of a type", async () => {
    let rows: unknown[] = [];
    const asked = serve({
      "GET /api/meta": META,
      "GET /api/session": SESSION,
      "GET /api/record_types": { things: [TYPE] },
      "GET /api/records": () => ({ rows, total: rows.length, next: null }),
      "POST /api/records": () => {
        rows = [REED];
        return REED;
      },
    });
    show(<RecordsView />);
    expect((await screen.findAllByText("No record yet")).length).toBeGreaterThan(0);
    fireEvent.click(screen.getByText("New record"));
    fireEvent.change(await screen.findByLabelText("Name of the record"), { target: { value: "Reed" } });
    fireEvent.click(screen.getByText("Make it"));
    await waitFor(() => expect(here()).toBe("/fill/records/reed"));
    expect(writes(asked)).toEqual([["POST", "/api/records", { type: "maker", name: "Reed" }]]);
  });

  it("are found by the server, whose words stand in the address", async () => {
    const asked = serve({
      "GET /api/meta": META,
      "GET /api/session": SESSION,
      "GET /api/record_types": { things: [TYPE] },
      "GET /api/records": { rows: [], total: 0, next: null },
    });
    show(<RecordsView />);
    fireEvent.change(await screen.findByLabelText("Find a record"), { target: { value: "ree" } });
    await waitFor(() => expect(asked.at(-1)?.query.get("words")).toBe("ree"));
    expect(await screen.findByText("None has that in its name.")).toBeTruthy();
  });

  it("come by pages, the next when the end of the list is in sight", async () => {
    vi.stubGlobal(
      "IntersectionObserver",
      class {
        constructor(private readonly seen: (entries: { isIntersecting: boolean }[]) => void) {}
        observe() {
          this.seen([{ isIntersecting: true }]);
        }
        disconnect() {}
      },
    );
    const named = (key: string, name: string) => ({ ...REED, thing: { ...REED.thing, key, name } });
    serve({
      "GET /api/meta": META,
      "GET /api/session": SESSION,
      "GET /api/record_types": { things: [TYPE] },
      "GET /api/records": ({ query }: { query: URLSearchParams }) =>
        query.get("offset") === "1"
          ? { rows: [named("rush", "Rush")], total: 2, next: null }
          : { rows: [REED], total: 2, next: 1 },
    });
    show(<RecordsView />);
    expect(await screen.findByTitle("Reed")).toBeTruthy();
    expect(await screen.findByTitle("Rush")).toBeTruthy();
  });
});

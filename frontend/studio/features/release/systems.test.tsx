import { fireEvent, screen, waitFor } from "@testing-library/react";
import { describe, expect, it } from "vitest";
import { serve, show, writes } from "../../testing";
import JobsView from "./JobsView";
import SystemsView from "./SystemsView";

const job = (id: number, state: string, more = {}) => ({
  id,
  kind: "memberships",
  name: "Gathering collections",
  state,
  person: "Rosa Marsh",
  asked: "2026-01-01T00:00:00Z",
  done: 40,
  total: 160,
  result: {},
  counted: ["product", "products"],
  outcome: "",
  may_stop: state === "running",
  ...more,
});

describe("the list of jobs", () => {
  it("tells how far each is and what became of it, and stops one", async () => {
    const asked = serve({
      "GET /api/jobs": {
        jobs: [
          job(3, "running"),
          job(2, "waiting", { total: 0, may_stop: false }),
          job(1, "done", { outcome: "160 products looked at, 12 moved" }),
          job(0, "failed", { outcome: "The worker was lost. Ask for it again" }),
        ],
      },
      "POST /api/jobs/3/stop": job(3, "running"),
    });
    show(<JobsView />);
    expect(await screen.findByText("40 of 160 products, 25 %")).toBeTruthy();
    expect(screen.getByText("about to begin")).toBeTruthy();
    expect(screen.getByText("160 products looked at, 12 moved")).toBeTruthy();
    expect(screen.getByText("The worker was lost. Ask for it again")).toBeTruthy();
    expect(screen.getByText("2 jobs not done yet")).toBeTruthy();
    const [stop, waiting] = screen.getAllByRole("button", { name: "Stop it: Gathering collections" });
    expect((waiting as HTMLButtonElement).disabled).toBe(true);
    fireEvent.click(stop as HTMLElement);
    await waitFor(() => expect(writes(asked)).toEqual([["POST", "/api/jobs/3/stop", ""]]));
  });

  it("says what belongs there when there was none", async () => {
    serve({ "GET /api/jobs": { jobs: [] } });
    show(<JobsView />);
    expect(await screen.findByText("No long work yet")).toBeTruthy();
  });
});

const KEY = {
  id: 4,
  name: "The till",
  tail: "wXyZ",
  person: "Rosa Marsh",
  made: "2026-01-01T00:00:00Z",
  used: null,
  ended: null,
};

function systems(rights: string[], keys: unknown[] = [KEY]) {
  const asked = serve({
    "GET /api/session": { rights },
    "GET /api/keys": { keys, address: "https://shop.example/delivery/v1/feed" },
    "POST /api/keys": { id: 5, key: "a-long-key" },
    "DELETE /api/keys/4": { done: true },
  });
  show(<SystemsView />);
  return asked;
}

describe("keys of other systems", () => {
  it("shows a key once when it is made", async () => {
    const asked = systems(["look", "release"]);
    fireEvent.click(await screen.findByRole("button", { name: "New key" }));
    fireEvent.change(await screen.findByLabelText(/Name of the key/), { target: { value: "The printer" } });
    fireEvent.click(screen.getByRole("button", { name: "Make it" }));
    expect((await screen.findByLabelText("The key")).textContent).toBe("a-long-key");
    expect(writes(asked)).toEqual([["POST", "/api/keys", { name: "The printer" }]]);
    fireEvent.click(screen.getByRole("button", { name: "It is in its place" }));
    await waitFor(() => expect(screen.queryByText("a-long-key")).toBeNull());
  });

  it("asks before a key is ended", async () => {
    const asked = systems(["look", "release"]);
    fireEvent.click(await screen.findByRole("button", { name: "End it: the key of The till" }));
    expect(writes(asked)).toEqual([]);
    fireEvent.click(await screen.findByRole("button", { name: "End it now" }));
    await waitFor(() => expect(writes(asked)).toEqual([["DELETE", "/api/keys/4", ""]]));
  });

  it("offers nothing to those who may not release", async () => {
    systems(["look"], []);
    expect(await screen.findByText("Someone who may release can make one.")).toBeTruthy();
    expect(screen.queryByRole("button", { name: "New key" })).toBeNull();
  });
});

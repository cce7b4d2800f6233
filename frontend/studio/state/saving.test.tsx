import { act, fireEvent, screen, waitFor } from "@testing-library/react";
import { useState } from "react";
import { describe, expect, it, vi } from "vitest";
import { client, data, Refused } from "../api/client";
import { Refusal, serve, show, writes } from "../testing";
import { Saved, useSaving } from "./saving";

type Save = ReturnType<typeof useSaving>;

function Holder({ held }: { held: { now: Save } }) {
  held.now = useSaving();
  return <Saved />;
}

/** The saving of a part on show, to be driven from outside. */
function taken(): { now: Save } {
  const held = {} as { now: Save };
  show(<Holder held={held} />);
  return held;
}

function later<T>(): { promise: Promise<T>; resolve: (value: T) => void } {
  let resolve: (value: T) => void = () => undefined;
  const promise = new Promise<T>((done) => {
    resolve = done;
  });
  return { promise, resolve };
}

const undo = () => data(client.POST("/api/undo"));

describe("saving", () => {
  it("says where it stands, in words", async () => {
    const held = taken();
    expect(screen.getByText("all saved")).toBeTruthy();
    const wait = later<string>();
    let got: Promise<string | null> = Promise.resolve(null);
    act(() => {
      got = held.now.save(() => wait.promise);
    });
    expect(screen.getByText("saving…")).toBeTruthy();
    await act(async () => {
      wait.resolve("done");
      await got;
    });
    expect(await got).toBe("done");
    expect(screen.getByRole("status").textContent).toContain("saved 1 s ago");
  });

  it("writes one after the other, in the order they were asked", async () => {
    const held = taken();
    const order: string[] = [];
    const first = later<void>();
    await act(async () => {
      const saved = held.now.save(async () => {
        order.push("first begins");
        await first.promise;
        order.push("first ends");
      });
      const two = held.now.save(async () => {
        order.push("second");
      });
      first.resolve();
      await Promise.all([saved, two]);
    });
    expect(order).toEqual(["first begins", "first ends", "second"]);
  });

  it("goes on after a refusal, and tells who asked", async () => {
    serve({ "POST /api/undo": new Refusal(422, "nothing_to_undo") });
    const held = taken();
    const refused = vi.fn();
    await act(async () => {
      expect(await held.now.save(undo, { onRefused: refused })).toBeNull();
      expect(await held.now.save(async () => 3)).toBe(3);
    });
    expect(refused.mock.calls[0]?.[0]).toBeInstanceOf(Refused);
    expect(screen.getByRole("status").textContent).toContain("saved");
  });

  it("says what was not saved, and why", async () => {
    serve({ "POST /api/undo": new Refusal(422, "taken", { message: "Two have one SKU" }) });
    const held = taken();
    await act(async () => {
      await held.now.save(undo, { onRefused: () => undefined });
    });
    expect(screen.getByText("not saved: Two have one SKU")).toBeTruthy();
  });

  it("goes on trying while the server can't be reached, in order, and says so", async () => {
    vi.useFakeTimers({ shouldAdvanceTime: true });
    let reachable = false;
    const asked = serve({
      "POST /api/undo": () => {
        if (!reachable) throw new TypeError("no network");
        return { name: "Hair", lines: [] };
      },
      "POST /api/redo": { name: "Hair", lines: [] },
    });
    const held = taken();
    let both: Promise<unknown> = Promise.resolve();
    act(() => {
      both = Promise.all([held.now.save(undo), held.now.save(() => data(client.POST("/api/redo")))]);
    });
    expect(await screen.findByText(/can't be reached; it is tried again/)).toBeTruthy();
    reachable = true;
    await act(async () => {
      await vi.advanceTimersByTimeAsync(3100);
      await both;
    });
    vi.useRealTimers();
    expect(writes(asked).map(([, path]) => path)).toEqual(["/api/undo", "/api/undo", "/api/redo"]);
    expect(screen.getByRole("status").textContent).toContain("saved");
  });

  it("takes a clash over what is the same for saved: only the answer was lost", async () => {
    const yours = { label: "Tuft", values: { price: "8", held: { amount: "1", unit: "mm" } } };
    const theirs = { values: { held: { unit: "mm", amount: "1" }, price: "8" }, label: "Tuft" };
    serve({ "POST /api/undo": new Refusal(409, "clash", { yours, theirs, version: 5 }) });
    const held = taken();
    await act(async () => {
      await held.now.save(undo, { over: async () => undefined });
    });
    expect(screen.queryByRole("dialog")).toBeNull();
    expect(screen.getByRole("status").textContent).toContain("saved");
  });

  it("counts the writes that went through, for the proof to follow", async () => {
    serve({ "POST /api/undo": new Refusal(422, "x") });
    const held = taken();
    await act(async () => {
      await held.now.save(async () => 1);
      await held.now.save(undo, { onRefused: () => undefined });
    });
    expect(held.now.writes).toBe(1);
  });
});

function Edited({ over }: { over: (version: number) => Promise<unknown> }) {
  const { save } = useSaving();
  const [done, setDone] = useState("");
  return (
    <button
      type="button"
      onClick={() => save(() => data(client.POST("/api/undo")), { over }).then((got) => setDone(String(got)))}
    >
      write {done}
    </button>
  );
}

const clash = new Refusal(409, "clash", {
  message: "Hair was changed by someone else in the meantime",
  yours: { label: "Tuft", values: { price: "8" } },
  theirs: { label: "Bristle", values: { price: "9" } },
  your_lines: ["label “Hair” → “Tuft”", "Price 8"],
  their_lines: ["label “Hair” → “Bristle”", "Price 9"],
  version: 5,
});

describe("two who edit one thing", () => {
  it("are shown both, and may write over what stands", async () => {
    serve({ "POST /api/undo": clash });
    const over = vi.fn(async () => "over");
    show(<Edited over={over} />);
    fireEvent.click(screen.getByText(/write/));
    await screen.findByText("Hair was changed by someone else in the meantime");
    for (const text of [/Tuft/, /Bristle/, "Price 8", "Price 9"]) expect(screen.getByText(text)).toBeTruthy();
    fireEvent.click(screen.getByText("Write yours over it"));
    await waitFor(() => expect(over).toHaveBeenCalledWith(5));
    expect(screen.queryByRole("dialog")).toBeNull();
  });

  it("may keep what the other wrote", async () => {
    serve({ "POST /api/undo": clash });
    const over = vi.fn(async () => "over");
    show(<Edited over={over} />);
    fireEvent.click(screen.getByText(/write/));
    fireEvent.click(await screen.findByText("Keep theirs"));
    await waitFor(() => expect(screen.queryByRole("dialog")).toBeNull());
    expect(over).not.toHaveBeenCalled();
  });

  it("can't write over what is gone", async () => {
    serve({
      "POST /api/undo": new Refusal(409, "clash", {
        message: "It is gone",
        yours: { label: "Tuft" },
        theirs: null,
        your_lines: ["label “Hair” → “Tuft”"],
        their_lines: ["removed"],
        version: null,
      }),
    });
    show(<Edited over={async () => undefined} />);
    fireEvent.click(screen.getByText(/write/));
    const button = await screen.findByText<HTMLButtonElement>("Write yours over it");
    expect(button.disabled).toBe(true);
    expect(screen.getByText("removed")).toBeTruthy();
  });
});

describe("undo", () => {
  it("is asked of the server", async () => {
    const asked = serve({ "POST /api/undo": { name: "Hair", noun: "field", key: "ss_hair", lines: ["label"] } });
    const held = taken();
    await act(async () => held.now.undo());
    await waitFor(() => expect(writes(asked)).toEqual([["POST", "/api/undo", ""]]));
    await waitFor(() => expect(held.now.writes).toBe(1));
  });
});

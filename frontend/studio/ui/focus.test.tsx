import { act, fireEvent, render, screen, waitFor } from "@testing-library/react";
import { useState } from "react";
import { afterEach, describe, expect, it, vi } from "vitest";
import "../testing";
import { boxIn, focusOnceThere, holdKeys, nextIn, typed } from "./focus";
import { useKeys } from "./keys";

/** A key as a person presses it, with what a browser does then; gives whether it was not held. */
function person(key: string) {
  const event = new KeyboardEvent("keydown", { key, bubbles: true, cancelable: true });
  let held = true;
  const heard = () => {
    held = false;
  };
  document.addEventListener("keydown", heard, { once: true, capture: true });
  (document.activeElement ?? document.body).dispatchEvent(event);
  document.removeEventListener("keydown", heard, { capture: true });
  if (!held && !event.defaultPrevented) typed({ key, shiftKey: false });
  return !held;
}
const releases: (() => void)[] = [];
function hold() {
  const release = holdKeys();
  releases.push(release);
  return release;
}
afterEach(() => {
  for (const release of releases.splice(0)) release();
});

/** Makes things by N, a name and Enter; each takes a moment to be made. */
function Makes({ made }: { made: (name: string) => void }) {
  const [open, setOpen] = useState(false);
  useKeys({ n: () => setOpen(true) });
  return open ? (
    <form
      onSubmit={(event) => {
        event.preventDefault();
        const name = String(new FormData(event.currentTarget).get("name"));
        const release = hold();
        setTimeout(() => {
          made(name);
          setOpen(false);
          focusOnceThere(() => document.querySelector<HTMLElement>("[data-row]"));
          release();
        }, 120);
      }}
    >
      {/* biome-ignore lint/a11y/noAutofocus: as a dialog does */}
      <input name="name" aria-label="Name" autoFocus />
    </form>
  ) : (
    <button type="button" data-row>
      row
    </button>
  );
}

describe("keys pressed before something is there", () => {
  it("wait, and make twenty things in a row named as typed", async () => {
    const made = vi.fn();
    render(<Makes made={made} />);
    const names = Array.from({ length: 20 }, (_, at) => `nan ${at}`);
    person("n");
    await screen.findByLabelText("Name");
    const [first = "", ...rest] = names;
    for (const key of first) person(key);
    person("Enter");
    // All others are pressed while the first is on its way.
    for (const name of rest) for (const key of ["n", ...name, "Enter"]) person(key);
    await waitFor(() => expect(made).toHaveBeenCalledTimes(20), { timeout: 30_000 });
    expect(made.mock.calls.map(([name]) => name)).toEqual(names);
  }, 60_000);

  it("are typed where the focus goes, corrections too", async () => {
    render(<textarea aria-label="Words" defaultValue="" />);
    const release = hold();
    focusOnceThere(() => screen.getByLabelText("Words"));
    for (const key of ["a", "b", "Backspace", "Enter", "c"]) expect(person(key)).toBe(false);
    await act(async () => release());
    await waitFor(() => expect(screen.getByLabelText<HTMLTextAreaElement>("Words").value).toBe("a\nc"));
  });

  it("leave shortcuts with Ctrl, and keys that go from place to place, alone", () => {
    hold();
    expect(fireEvent.keyDown(document.body, { key: "n" })).toBe(false);
    expect(fireEvent.keyDown(document.body, { key: "z", ctrlKey: true })).toBe(true);
    expect(fireEvent.keyDown(document.body, { key: "Tab" })).toBe(true);
  });
});

describe("the focus", () => {
  it("waits for what is done next, and is given up where that is not wanted any more", async () => {
    render(
      <>
        <button type="button">first</button>
        <div data-testid="part">
          <button type="button">Remove</button>
          <input type="checkbox" aria-label="tick" />
          <input aria-label="box" />
        </div>
      </>,
    );
    let there = false;
    focusOnceThere(() => (there ? boxIn(screen.getByTestId("part")) : null));
    screen.getByText("first").focus();
    there = true;
    await waitFor(() => expect(document.activeElement).toBe(screen.getByLabelText("box")));
    screen.getByText("first").focus();
    focusOnceThere(() => false);
    await act(async () => new Promise((done) => setTimeout(done, 60)));
    expect(document.activeElement).toBe(screen.getByText("first"));
    expect(nextIn(screen.getByTestId("part"))).toBeNull();
  });
});

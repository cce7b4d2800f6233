import { fireEvent, render, screen } from "@testing-library/react";
import { afterEach, describe, expect, it, vi } from "vitest";
import { isTyping, keyName, moveFocus, useKeys } from "./keys";

afterEach(() => {
  document.body.innerHTML = "";
});

function Keyed({ keys }: { keys: Parameters<typeof useKeys>[0] }) {
  useKeys(keys);
  return (
    <>
      <input aria-label="box" />
      <input aria-label="tick" type="checkbox" />
    </>
  );
}

describe("keys", () => {
  it("are named by what is pressed", () => {
    expect(keyName(new KeyboardEvent("keydown", { key: "N" }))).toBe("n");
    expect(keyName(new KeyboardEvent("keydown", { key: "k", ctrlKey: true }))).toBe("ctrl+k");
    expect(keyName(new KeyboardEvent("keydown", { key: "k", metaKey: true }))).toBe("ctrl+k");
    expect(keyName(new KeyboardEvent("keydown", { key: "Escape" }))).toBe("escape");
  });
  it("do nothing while something is typed, but for those with Ctrl", () => {
    const n = vi.fn();
    const find = vi.fn();
    const undo = vi.fn();
    render(<Keyed keys={{ n, "ctrl+k": find, "ctrl+z": undo }} />);
    const box = screen.getByLabelText("box");
    fireEvent.keyDown(box, { key: "n" });
    fireEvent.keyDown(box, { key: "z", ctrlKey: true });
    expect(n).not.toHaveBeenCalled();
    expect(undo).not.toHaveBeenCalled();
    fireEvent.keyDown(box, { key: "k", ctrlKey: true });
    expect(find).toHaveBeenCalledOnce();
    fireEvent.keyDown(screen.getByLabelText("tick"), { key: "n" });
    fireEvent.keyDown(document.body, { key: "z", ctrlKey: true });
    expect(n).toHaveBeenCalledOnce();
    expect(undo).toHaveBeenCalledOnce();
  });
  it("do nothing under something that floats, nor with Alt", () => {
    const n = vi.fn();
    render(<Keyed keys={{ n }} />);
    fireEvent.keyDown(document.body, { key: "n", altKey: true });
    document.body.insertAdjacentHTML("beforeend", "<div data-floating></div>");
    fireEvent.keyDown(document.body, { key: "n" });
    expect(n).not.toHaveBeenCalled();
    expect(isTyping(new KeyboardEvent("keydown", { key: "n" }))).toBe(true);
  });
  it("move the focus along a list and stop at its ends", () => {
    Element.prototype.scrollIntoView = vi.fn();
    render(
      // biome-ignore lint/a11y/noStaticElementInteractions: a list for the test
      <div onKeyDown={moveFocus}>
        {["a", "b", "c"].map((name) => (
          <button key={name} type="button" data-item>
            {name}
          </button>
        ))}
      </div>,
    );
    const press = (key: string) => fireEvent.keyDown(document.activeElement as Element, { key });
    screen.getByText("a").focus();
    press("ArrowDown");
    expect(document.activeElement?.textContent).toBe("b");
    press("End");
    press("ArrowDown");
    expect(document.activeElement?.textContent).toBe("c");
    press("Home");
    press("ArrowUp");
    expect(document.activeElement?.textContent).toBe("a");
  });
});

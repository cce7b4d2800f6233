import { fireEvent, render, screen } from "@testing-library/react";
import { useState } from "react";
import { afterEach, describe, expect, it, vi } from "vitest";
import "../testing";
import { Select } from "./Select";

afterEach(() => {
  Reflect.deleteProperty(HTMLSelectElement.prototype, "showPicker");
});

function open(showPicker?: () => void) {
  if (showPicker) HTMLSelectElement.prototype.showPicker = showPicker;
  const choose = vi.fn();
  render(
    <Select aria-label="Layout" value="a" onChange={(event) => choose(event.target.value)}>
      <option value="a">A</option>
      <option value="b">B</option>
    </Select>,
  );
  return choose;
}
const list = () => screen.getByLabelText("Layout");

function Form({ onSend }: { onSend: (value: string) => void }) {
  const [value, setValue] = useState("a");
  return (
    // biome-ignore lint/a11y/noStaticElementInteractions: it stands for a form that is sent by keys
    <div onKeyDown={(event) => event.ctrlKey && onSend(value)}>
      <Select aria-label="Layout" value={value} onChange={(event) => setValue(event.target.value)}>
        <option value="a">A</option>
        <option value="b">B</option>
      </Select>
    </div>
  );
}

describe("a list to choose one of", () => {
  it("opens at an arrow and chooses nothing by it", () => {
    const show = vi.fn();
    const choose = open(show);
    for (const key of ["ArrowDown", "ArrowUp", "End"])
      expect(fireEvent.keyDown(list(), { key }), `${key} does what it usually does`).toBe(false);
    expect(show).toHaveBeenCalledTimes(3);
    expect(choose).not.toHaveBeenCalled();
  });

  it("marks what is typed, takes it at Enter or when it is left, and lets it go at Esc", () => {
    const choose = open();
    const type = () => fireEvent.keyDown(list(), { key: "b" });
    const shown = () => (list() as HTMLSelectElement).value;
    type();
    expect([shown(), choose.mock.calls]).toEqual(["b", []]);
    fireEvent.keyDown(list(), { key: "Escape" });
    fireEvent.blur(list());
    expect([shown(), choose.mock.calls]).toEqual(["a", []]);
    type();
    fireEvent.keyDown(list(), { key: "Enter" });
    expect(choose.mock.calls).toEqual([["b"]]);
    type();
    fireEvent.blur(list());
    expect(choose.mock.calls).toEqual([["b"], ["b"]]);
  });

  it("takes a space for a part of the word that is being typed", () => {
    const choose = vi.fn();
    render(
      <Select aria-label="Layout" value="x" onChange={(event) => choose(event.target.value)}>
        <option value="x">…</option>
        <option value="one">one of a list</option>
        <option value="only">one only</option>
      </Select>,
    );
    for (const key of "one on") expect(fireEvent.keyDown(list(), { key })).toBe(false);
    fireEvent.blur(list());
    expect(choose.mock.calls).toEqual([["only"]]);
  });

  it("has what is marked taken before a form hears of Enter with Ctrl", () => {
    const heard = vi.fn();
    render(<Form onSend={heard} />);
    fireEvent.keyDown(list(), { key: "b" });
    fireEvent.keyDown(list(), { key: "Enter", ctrlKey: true });
    expect(heard.mock.calls).toEqual([["b"]]);
  });

  it("leaves Tab, Space, Enter and shortcuts to the browser", () => {
    open(vi.fn());
    for (const key of ["Tab", " ", "Enter", "Escape"]) expect(fireEvent.keyDown(list(), { key })).toBe(true);
    expect(fireEvent.keyDown(list(), { key: "z", ctrlKey: true })).toBe(true);
  });

  it("chooses what is chosen, and takes a picker that does not open", () => {
    const choose = open(() => {
      throw new DOMException("no gesture", "NotAllowedError");
    });
    expect(fireEvent.keyDown(list(), { key: "ArrowDown" })).toBe(false);
    fireEvent.change(list(), { target: { value: "b" } });
    expect(choose.mock.calls).toEqual([["b"]]);
  });
});

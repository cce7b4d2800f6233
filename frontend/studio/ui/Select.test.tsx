import { fireEvent, render, screen } from "@testing-library/react";
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

describe("a list to choose one of", () => {
  it("opens at an arrow or a letter and chooses nothing by it", () => {
    const show = vi.fn();
    const choose = open(show);
    for (const key of ["ArrowDown", "ArrowUp", "End", "b"])
      expect(fireEvent.keyDown(list(), { key }), `${key} does what it usually does`).toBe(false);
    expect(show).toHaveBeenCalledTimes(4);
    expect(choose).not.toHaveBeenCalled();
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

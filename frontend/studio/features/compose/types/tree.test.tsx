import { fireEvent, screen } from "@testing-library/react";
import { describe, expect, it, vi } from "vitest";
import { show } from "../../../testing";
import { gathered } from "../sets/Several";
import { isWithin, parentOf, step, TypeTree } from "./TypeTree";

const ROWS = [
  { key: "easels", name: "Easels", depth: 0 },
  { key: "paint", name: "Paint", depth: 0 },
  { key: "oil", name: "Oil", depth: 1 },
  { key: "alkyd", name: "Alkyd", depth: 2 },
  { key: "wash", name: "Wash", depth: 1 },
];

describe("the tree of types", () => {
  it("knows what stands under what", () => {
    expect(ROWS.map(({ key }) => parentOf(ROWS, key))).toEqual([null, null, "paint", "oil", "paint"]);
    expect(isWithin(ROWS, "alkyd", "paint")).toBe(true);
    expect(isWithin(ROWS, "paint", "paint")).toBe(true);
    expect(isWithin(ROWS, "wash", "oil")).toBe(false);
  });

  it("moves a branch in under the one above, and out beside its parent", () => {
    const into = vi.fn();
    for (const [key, by] of [
      ["wash", "in"],
      ["alkyd", "out"],
      ["oil", "out"],
      ["paint", "in"],
      ["easels", "in"],
      ["easels", "out"],
      ["oil", "in"],
    ] as const)
      step(ROWS, key, by, into);
    expect(into.mock.calls).toEqual([
      ["wash", "oil"],
      ["alkyd", "paint"],
      ["oil", null],
      ["paint", "easels"],
    ]);
  });

  it("is moved by Alt and an arrow on a grip", () => {
    const into = vi.fn();
    show(
      <TypeTree rows={ROWS} onInto={into}>
        {(row) => row.name}
      </TypeTree>,
    );
    const grip = screen.getByLabelText(/^Move Wash/);
    fireEvent.keyDown(grip, { key: "ArrowRight" });
    expect(into).not.toHaveBeenCalled();
    fireEvent.keyDown(grip, { key: "ArrowLeft", altKey: true });
    expect(into).toHaveBeenCalledWith("wash", null);
  });
});

describe("several fields of a set at once", () => {
  const SECTIONS = [
    { key: "a", name: "A", fields: ["one", "two", "three"] },
    { key: "b", name: "B", fields: ["four"] },
  ];
  it("go to the end of a section in the order they had", () => {
    const fields = (to: string, ...keys: string[]) =>
      gathered(SECTIONS, new Set(keys), to).map((section) => section.fields);
    expect(fields("b", "three", "one")).toEqual([["two"], ["four", "one", "three"]]);
    expect(fields("a", "one", "four")).toEqual([["two", "three", "one", "four"], []]);
    expect(fields("a")).toEqual([["one", "two", "three"], ["four"]]);
  });
});

import { describe, expect, it } from "vitest";
import { focusOf, movedFocus } from "./PictureFocus";

describe("The part of a picture that shows", () => {
  it("is the middle of the whole where nothing is said", () => {
    expect(focusOf([])).toEqual([500, 500, 100]);
    expect(focusOf(undefined)).toEqual([500, 500, 100]);
    expect(focusOf([10, 20, 300])).toEqual([10, 20, 300]);
  });
  it("moves by arrows, farther with Shift, and never out of the picture", () => {
    expect(movedFocus([500, 500, 100], "ArrowRight", false)).toEqual([520, 500, 100]);
    expect(movedFocus([500, 500, 200], "ArrowUp", true)).toEqual([500, 400, 200]);
    expect(movedFocus([990, 5, 100], "ArrowRight", true)).toEqual([1000, 5, 100]);
    expect(movedFocus([990, 5, 100], "ArrowUp", true)).toEqual([990, 0, 100]);
    expect(movedFocus([500, 500, 100], "a", false)).toBeNull();
  });
});

import { describe, expect, it } from "vitest";
import type { Schemas } from "../../../api/client";
import { limitLines } from "../../../controls/LimitsEditor";
import { keptOptions } from "./KindLines";

const limit = (code: string, below: string | null = null) =>
  ({ code, label: code, control: "number", many: false, below }) as Schemas["LimitOut"];

describe("limits", () => {
  it("stand in a line with the one they may not exceed", () => {
    const lines = limitLines([limit("min", "max"), limit("max"), limit("places")]);
    expect(lines.map((line) => line.map(({ code }) => code))).toEqual([["min", "max"], ["places"]]);
  });
  it("stand alone where that one is not offered", () => {
    expect(limitLines([limit("min", "max")]).map((line) => line.map(({ code }) => code))).toEqual([["min"]]);
  });
});

describe("options of a kind", () => {
  const kind = { options: [{ code: "unit" }] } as Schemas["KindOut"];
  it("keep what the new kind asks for too, and drop the rest", () => {
    expect(keptOptions(kind, { unit: "mm", list: "wood" })).toEqual({ unit: "mm" });
    expect(keptOptions(kind, { list: "wood" })).toEqual({});
  });
});

import { fireEvent, screen } from "@testing-library/react";
import { describe, expect, it } from "vitest";
import type { Schemas } from "../api/client";
import type { Column } from "../kinds/columns";
import { show } from "../testing";
import { Columns } from "./Columns";

const option = { code: "unit", label: "unit", control: "unit", needed: true };
const META = {
  kinds: [
    { code: "text", name: "text", in_rows: true, options: [], limits: [] },
    { code: "measure", name: "measure", in_rows: true, options: [option], limits: [] },
  ],
} as unknown as Schemas["MetaOut"];

describe("a column whose kind asks for more than was said", () => {
  const chosen = (making: boolean) => {
    let columns: Column[] = [{ label: "Takes", kind: "text" }];
    const put = (from: (now: unknown) => Column[]) => {
      columns = from(columns);
    };
    show(<Columns value={columns} meta={META} making={making} onPut={put} controls={{}} />);
    fireEvent.change(screen.getByLabelText("Kind of column Takes"), { target: { value: "measure" } });
    return columns.map(({ kind }) => kind);
  };

  it("goes along with a field that is only being made, to be refused at its place", () => {
    expect(chosen(true)).toEqual(["measure"]);
  });

  it("waits in a field that is there, and says for what", () => {
    expect(chosen(false)).toEqual(["text"]);
    expect(screen.getByText("It is taken once what its kind asks for is chosen")).toBeTruthy();
  });
});

import { fireEvent, render, screen } from "@testing-library/react";
import { describe, expect, it, vi } from "vitest";
import type { Schemas } from "../api/client";
import { ValueInput } from "../holding/ValueInput";
import { cellAt, show } from "../testing";
import { NewThing } from "../things/NewThing";
import { Button, Segments } from "./basics";
import { Grid } from "./grid/Grid";
import { Input, TextArea } from "./inputs";
import { ForAll, Rights } from "./rights";
import { Select } from "./Select";
import { TextBox } from "./TextBox";

const AT = {
  field: { key: "ss_hue", name: "Hue", kind: "text", many: false, limits: {} },
  need: "optional",
  own: true,
  surfaces: [],
  value: { typed: "Peat", shown: "Peat", state: "good", message: "", help: "", faults: [] },
} as unknown as Schemas["EditField"];

describe("somebody who may only look", () => {
  const look = (part: React.ReactNode) => render(<Rights rights={["look"]}>{part}</Rights>);

  it("sees what stands in a box, and can type in none", () => {
    const commit = vi.fn();
    look(
      <>
        <TextBox aria-label="Name" value="Hue" onCommit={commit} />
        <Input aria-label="Other" className="input" value="as it is" onChange={commit} placeholder="Type here" />
        <TextArea aria-label="Words" value="Long" onChange={commit} />
        <Input aria-label="On" type="checkbox" checked onChange={commit} />
        <Input aria-label="File" type="file" onChange={commit} />
      </>,
    );
    for (const name of ["Name", "Other", "Words"]) {
      expect(screen.getByLabelText<HTMLInputElement>(name).readOnly).toBe(true);
      expect(screen.getByLabelText(name).className).toContain("plain");
    }
    expect(screen.queryByPlaceholderText("Type here")).toBeNull();
    expect(screen.getByLabelText<HTMLInputElement>("On").disabled).toBe(true);
    expect(screen.queryByLabelText("File")).toBeNull();
    fireEvent.keyDown(screen.getByLabelText("Name"), { key: "Enter" });
    fireEvent.blur(screen.getByLabelText("Name"));
    expect(commit).not.toHaveBeenCalled();
  });

  it("chooses nothing, but for what only looks", () => {
    look(
      <>
        <Select aria-label="Kind" value="a" onChange={() => undefined}>
          <option value="a">text</option>
        </Select>
        <Segments label="Need" value="a" choices={[["a", "optional"]]} onChoose={() => undefined} />
        <ForAll>
          <Segments label="Width" value="p" choices={[["p", "Phone"]]} onChoose={() => undefined} />
        </ForAll>
      </>,
    );
    expect(screen.getByLabelText<HTMLSelectElement>("Kind").disabled).toBe(true);
    expect(screen.getByText<HTMLButtonElement>("optional").disabled).toBe(true);
    expect(screen.getByText<HTMLButtonElement>("Phone").disabled).toBe(false);
  });

  it("is offered nothing that makes or takes away", () => {
    show(
      <>
        <NewThing what="field" onMake={async () => undefined} />
        <Button look="danger">Remove</Button>
        <Button right="edit">Copy</Button>
        <Button>Compare</Button>
      </>,
      "/?new=1",
      ["look"],
    );
    fireEvent.keyDown(document.body, { key: "n" });
    expect(screen.getAllByRole("button").map(({ textContent }) => textContent)).toEqual(["Compare"]);
    expect(screen.queryByLabelText("Name of the field")).toBeNull();
  });

  it("sees values as their kinds show them", () => {
    show(<ValueInput id="hue" at={AT} wrong={false} onFill={() => undefined} onTyping={() => undefined} />, "/", [
      "look",
    ]);
    expect(screen.queryByRole("textbox")).toBeNull();
    expect(screen.getByText("Peat")).toBeTruthy();
  });

  it("moves in a grid and writes nothing there", async () => {
    const put = vi.fn(async () => null);
    const column = {
      key: "hue",
      name: "Hue",
      width: 100,
      show: (row: string) => row,
      text: (row: string) => row,
      read: (text: string) => ({ value: text }),
      edit: () => <input aria-label="Editor" />,
    };
    const name = { key: "name", name: "Name", width: 100, names: true, show: () => "First" };
    show(
      <Grid
        id="g"
        label="Grid"
        lines={[{ key: "1", row: "Peat" }]}
        columns={[name, column]}
        put={put}
        nameOf={() => "First"}
      />,
      "/",
      ["look"],
    );
    const cell = cellAt("First", "Hue");
    cell.focus();
    for (const key of ["x", "Enter", "F2", "Delete"]) fireEvent.keyDown(cell, { key });
    expect(screen.queryByLabelText("Editor")).toBeNull();
    expect(put).not.toHaveBeenCalled();
    expect(screen.getByRole("grid").getAttribute("aria-readonly")).toBe("true");
  });
});

import { fireEvent, screen, waitFor } from "@testing-library/react";
import { describe, expect, it, vi } from "vitest";
import type { Schemas } from "../api/client";
import { META, Refusal, serve, show } from "../testing";
import { file } from "./file";

const TYPES = [
  { code: "pdf", label: "PDF", endings: [".pdf"] },
  { code: "csv", label: "CSV", endings: [".csv"] },
];
const SHEET = { file: "a", words: "Sheet", type: "pdf", bytes: 1200 };

function input(value: unknown, limits = {}, more: Record<string, unknown> = {}) {
  const asked = serve({ "GET /api/meta": { ...META, file_types: TYPES }, ...more });
  const fill = vi.fn();
  const field = { key: "ss_f", name: "Sheets", many: true, limits };
  const at = { field, value: { value, typed: value } } as unknown as Schemas["EditField"];
  const { container } = show(<file.Editor id="f" at={at} wrong={false} onFill={fill} onTyping={() => undefined} />);
  const chooser = () => container.querySelector<HTMLInputElement>("input[type=file]");
  return { asked, fill, chooser };
}

describe("files for download", () => {
  it("offers the sorts its field takes, and tells sort and size", async () => {
    const { chooser } = input([SHEET], { types: ["csv"] });
    await waitFor(() => expect(chooser()?.accept).toBe(".csv"));
    expect(screen.getByText("PDF, 1 kB").getAttribute("href")).toBe("/downloads/a");
  });

  it("adds what is sent, its name as the first words, and tells what is not kept", async () => {
    const names = ["Fire_plan.pdf", "x.exe"];
    const { fill, chooser } = input(
      [SHEET],
      {},
      {
        "POST /api/files": () => {
          const name = names.shift();
          return name?.endsWith(".exe")
            ? new Refusal(422, "file_kind", { message: "x.exe is no file of a sort that is kept" })
            : { file: "b", name, type: "pdf", bytes: 5 };
        },
      },
    );
    const sent = chooser();
    if (!sent) throw new Error("there is no chooser");
    fireEvent.change(sent, { target: { files: [new File(["a"], "Fire_plan.pdf"), new File(["b"], "x.exe")] } });
    await screen.findByText("x.exe is no file of a sort that is kept. Mend it");
    expect(fill).toHaveBeenCalledWith([SHEET, { file: "b", words: "Fire plan", type: "pdf", bytes: 5 }]);
  });

  it("lets words be changed and a file be taken off", () => {
    const { fill } = input([SHEET]);
    const words = screen.getByLabelText("Words for file 1");
    fireEvent.change(words, { target: { value: "Safety sheet" } });
    fireEvent.blur(words);
    expect(fill).toHaveBeenLastCalledWith([{ ...SHEET, words: "Safety sheet" }]);
    fireEvent.click(screen.getByLabelText("Take file 1 off"));
    expect(fill).toHaveBeenLastCalledWith([]);
  });
});

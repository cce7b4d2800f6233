import { fireEvent, screen } from "@testing-library/react";
import { describe, expect, it, vi } from "vitest";
import type { Schemas } from "../api/client";
import { show } from "../testing";
import { readLink, webLink, writeLink } from "./web_link";

const HOST = "https://saltmarsh.example";

function input(typed: unknown, many = false, wrongItem: number | null = null) {
  const fill = vi.fn();
  const at = {
    field: { key: "ss_guide", name: "Guide", many },
    value: { typed, faults: wrongItem === undefined || wrongItem === null ? [] : [{ at: [wrongItem], message: "" }] },
  } as unknown as Schemas["EditField"];
  show(<webLink.Editor id="f" at={at} wrong={wrongItem !== null} onFill={fill} onTyping={() => undefined} />);
  const commit = (label: string, text: string) => {
    const box = screen.getByLabelText(label);
    fireEvent.change(box, { target: { value: text } });
    fireEvent.blur(box);
  };
  return { fill, commit };
}

describe("a link as text", () => {
  it("is words and an address, or an address alone", () => {
    for (const text of [`Care guide <${HOST}/care>`, `${HOST}/care`, "Care guide <>"])
      expect(writeLink(readLink(text))).toBe(text);
    expect(readLink("Less < more <https://a.example>").words).toBe("Less < more");
    expect(readLink("no link at all")).toEqual({ words: "", address: "no link at all" });
  });
});

describe("the editor of links", () => {
  it("keeps words until their address comes, and puts the two together", () => {
    const { fill, commit } = input(null);
    commit("Guide, words", "Care guide");
    expect(fill).toHaveBeenLastCalledWith("Care guide <>");
  });

  it("changes one of the two and keeps the other", () => {
    const { fill, commit } = input(`Care guide <${HOST}/care>`);
    commit("Guide, address", `${HOST}/wash`);
    expect(fill).toHaveBeenLastCalledWith(`Care guide <${HOST}/wash>`);
    commit("Guide, words", "");
    expect(fill).toHaveBeenLastCalledWith(`${HOST}/wash`);
  });

  it("adds another where the field holds many, and takes one off", () => {
    const { fill, commit } = input([`A <${HOST}/a>`, `B <${HOST}/b>`], true);
    commit("Guide, link 3, address", `${HOST}/c`);
    expect(fill).toHaveBeenLastCalledWith([`A <${HOST}/a>`, `B <${HOST}/b>`, `${HOST}/c`]);
    fireEvent.click(screen.getByLabelText("Take A off"));
    expect(fill).toHaveBeenLastCalledWith([`B <${HOST}/b>`, `${HOST}/c`]);
  });

  it("marks the link that is wrong, and no other", () => {
    input([`A <${HOST}/a>`, "Folding <>"], true, 1);
    const marked = (label: string) => screen.getByLabelText(label).className.split(" ").includes("wrong");
    expect([marked("Guide, link 1, address"), marked("Guide, link 2, address")]).toEqual([false, true]);
    expect(marked("Guide, link 3, address")).toBe(false);
  });

  it("says nothing when the last text goes", () => {
    const { fill, commit } = input(`${HOST}/care`);
    commit("Guide, address", "");
    expect(fill).toHaveBeenLastCalledWith(null);
  });
});

import { fireEvent, screen, waitFor } from "@testing-library/react";
import { describe, expect, it, vi } from "vitest";
import type { Schemas } from "../../../api/client";
import { Arrange } from "../../../proof/Arrange";
import { here, META, serve, show, writes } from "../../../testing";
import { Alike } from "./Alike";
import { FieldKey, FieldKeys } from "./fields";
import type { MemberProps } from "./parts";
import { moveByKey, type Pin, PinsControl, placeOn } from "./pins";

const PICTURE = { file: "0".repeat(64), alt: "A bench", width: 800, height: 400 };
const pin = (more: Partial<Pin> = {}): Pin => ({ x: 500, y: 500, words: "", link: "", ...more });
const member = (more: object = {}) =>
  ({
    code: "pins",
    name: "Pins",
    control: "pins",
    kinds: [],
    own_fields: false,
    ...more,
  }) as unknown as MemberProps["member"];
const props = (more: Partial<MemberProps>): MemberProps => ({
  id: "control",
  member: member(),
  block: { picture: PICTURE },
  subject: "product",
  kind: {} as MemberProps["kind"],
  value: undefined,
  onPut: vi.fn(),
  onParts: vi.fn(),
  ...more,
});

describe("pins", () => {
  it("are moved by keys, farther with Shift, and never off the picture", () => {
    expect(moveByKey(pin(), "ArrowRight", false)).toEqual(pin({ x: 510 }));
    expect(moveByKey(pin(), "ArrowUp", true)).toEqual(pin({ y: 400 }));
    expect(moveByKey(pin({ x: 5, y: 995 }), "ArrowLeft", false)?.x).toBe(0);
    expect(moveByKey(pin({ y: 995 }), "ArrowDown", false)?.y).toBe(1000);
    expect(moveByKey(pin(), "Enter", false)).toBeNull();
  });

  it("stand where a pointer is on the picture", () => {
    const box = { left: 100, top: 50, width: 400, height: 200 } as DOMRect;
    expect(placeOn(box, 200, 100)).toEqual({ x: 250, y: 250 });
    expect(placeOn(box, 0, 999)).toEqual({ x: 0, y: 1000 });
  });

  it("want a picture first", () => {
    show(<PinsControl {...props({ block: {} })} />);
    expect(screen.getByText(/Choose the picture first/)).toBeTruthy();
    expect(screen.queryByText("Add a pin")).toBeNull();
  });

  it("are added, named, moved and taken off, each told whole", () => {
    const put = vi.fn();
    show(<PinsControl {...props({ value: [pin({ words: "The vice" })], onPut: put })} />);
    fireEvent.click(screen.getByText("Add a pin"));
    expect(put).toHaveBeenLastCalledWith([pin({ words: "The vice" }), pin()]);
    const link = screen.getByLabelText("Link of pin 2");
    fireEvent.change(link, { target: { value: " /shop/c/easels " } });
    fireEvent.blur(link);
    expect(put).toHaveBeenLastCalledWith([pin({ words: "The vice" }), pin({ link: "/shop/c/easels" })]);
    fireEvent.keyDown(screen.getByLabelText(/^Pin 1, The vice/), { key: "ArrowLeft" });
    expect(put.mock.lastCall?.[0][0]).toEqual(pin({ words: "The vice", x: 490 }));
    fireEvent.keyDown(screen.getByLabelText(/^Pin 2/), { key: "Delete" });
    fireEvent.click(screen.getByLabelText("Take pin 1 off"));
    expect(put).toHaveBeenLastCalledWith(null);
  });
});

describe("fields that members name", () => {
  const field = (key: string, kind: string, more: object = {}) => ({
    own: true,
    thing: { key, name: key, kind, subject: "product", audience: "shoppers", ...more },
  });
  const things = [
    field("look", "picture"),
    field("wood", "one_of"),
    field("cost", "money", { audience: "staff" }),
    field("place", "text", { subject: "record" }),
    { ...field("title", "text"), own: false },
  ];

  it("are those of the right kind, never for staff nor of other things", async () => {
    serve({ "GET /api/fields": { things }, "GET /api/meta": META });
    const put = vi.fn();
    show(<FieldKey {...props({ member: member({ kinds: ["picture"], name: "Icon from" }), onPut: put })} />);
    await screen.findByRole("option", { name: "look" });
    expect(screen.getAllByRole("option").map((option) => option.textContent)).toEqual(["none", "look"]);
    fireEvent.change(screen.getByLabelText("Icon from"), { target: { value: "look" } });
    expect(put).toHaveBeenCalledWith("look");
  });

  it("are taken off one by one", async () => {
    serve({ "GET /api/fields": { things }, "GET /api/meta": META });
    const put = vi.fn();
    const same = member({ name: "With the same", own_fields: true });
    show(<FieldKeys {...props({ member: same, value: ["wood", "gone"], onPut: put })} />);
    fireEvent.click(await screen.findByLabelText("Take gone off"));
    expect(put).toHaveBeenCalledWith(["wood"]);
  });
});

describe("layouts that are the same but for words", () => {
  const FOUND: Schemas["AlikeLayoutsOut"] = {
    layouts: ["oils", "gouache", "own"],
    differing: [{ name: "Our word", words: { oils: "Ground twice.", gouache: "Pressed.", own: "Bound." } }],
  };
  const names: Record<string, string> = { oils: "Oils", gouache: "Gouache", own: "Own" };

  it("are told with what stands in each, and made one", async () => {
    const asked = serve({
      "GET /api/layouts/own/alike": FOUND,
      "POST /api/layouts/own/alike": {},
      "GET /api/meta": META,
    });
    show(<Alike layout="own" can name={(key) => names[key] ?? key} />);
    expect((await screen.findByLabelText("The same but for words")).textContent).toContain(
      "Oils and Gouache could be one layout and a field with this one.",
    );
    expect(screen.getByText("Pressed.")).toBeTruthy();
    fireEvent.click(screen.getByText("Make them one layout and a field"));
    await waitFor(() => expect(writes(asked)[0]?.[1]).toBe("/api/layouts/own/alike"));
  });

  it("are not spoken of where there are none", async () => {
    const asked = serve({ "GET /api/layouts/own/alike": { layouts: [], differing: [] }, "GET /api/meta": META });
    show(<Alike layout="own" can name={(key) => key} />);
    await waitFor(() => expect(asked.length).toBeGreaterThan(0));
    expect(screen.queryByLabelText("The same but for words")).toBeNull();
  });
});

describe("an arrangement of one's own", () => {
  it("is opened without writing anything, with the product it is for", async () => {
    const asked = serve({ "GET /api/session": { rights: ["look", "edit"] }, "GET /api/meta": META });
    show(<Arrange scope="product:4" surface="product_page" words="Arrange" product={4} />);
    fireEvent.click(await screen.findByText("Arrange"));
    await waitFor(() => expect(here()).toBe("/present/layouts/~own?scope=product%3A4&surface=product_page&product=4"));
    expect(writes(asked)).toEqual([]);
  });

  it("is for those who may edit", async () => {
    show(<Arrange scope="shop" surface="product_page" words="Arrange" />, "/", ["look"]);
    expect(screen.queryByText("Arrange")).toBeNull();
  });
});

import { fireEvent, screen, waitFor } from "@testing-library/react";
import { afterEach, describe, expect, it, vi } from "vitest";
import { client, type Schemas } from "../../../api/client";
import { show } from "../../../testing";
import { NewField } from "./NewField";

const kind = (code: string, options: object[] = [], takes_many = true) => ({
  code,
  name: code,
  options,
  takes_many,
  own_fields: true,
});
const LIST = { code: "list", label: "value list", control: "value_list", noun: "value_list", needed: true };
const META = {
  prefix: "ss_",
  units: [],
  kinds: [kind("text"), kind("one_of", [LIST]), kind("yes_no", [], false)],
  surfaces: [
    { code: "product_page", name: "product page", subject: "product", data: false, shows_by_default: true },
    { code: "listing_card", name: "listing card", subject: "product", data: false, shows_by_default: false },
    { code: "feed", name: "feed", subject: "product", data: true, shows_by_default: true },
  ],
} as unknown as Schemas["MetaOut"];

function open() {
  const post = vi
    .spyOn(client, "POST")
    .mockResolvedValue({ data: { thing: { key: "ss_x" } }, response: { ok: true } } as never);
  const made = vi.fn(async () => undefined);
  show(<NewField meta={META} onMade={made} />);
  fireEvent.click(screen.getByText("New field"));
  fireEvent.change(screen.getByLabelText("Name of the field"), { target: { value: "Stand" } });
  const sent = () => (post.mock.calls.at(-1)?.[1] as { body: unknown } | undefined)?.body;
  return { made, sent, make: () => fireEvent.click(screen.getByText("Make it")) };
}

afterEach(() => vi.restoreAllMocks());

describe("a new field", () => {
  it("needs a name alone", async () => {
    const { made, sent, make } = open();
    make();
    await waitFor(() => expect(made).toHaveBeenCalledWith("ss_x"));
    expect(sent()).toEqual({
      name: "Stand",
      kind: "text",
      many: false,
      options: {},
      values: null,
      into: null,
      shown: {},
    });
  });

  it("says where it shows from the start, as far as that is not usual there", async () => {
    const { made, sent, make } = open();
    expect(screen.queryByLabelText("feed")).toBeNull();
    expect(screen.getByLabelText<HTMLInputElement>("product page").checked).toBe(true);
    fireEvent.click(screen.getByLabelText("listing card"));
    fireEvent.click(screen.getByLabelText("product page"));
    fireEvent.click(screen.getByLabelText("product page"));
    make();
    await waitFor(() => expect(made).toHaveBeenCalled());
    expect(sent()).toMatchObject({ shown: { listing_card: true } });
  });

  it("brings a list typed on the spot, and never takes one unasked", async () => {
    const { made, sent, make } = open();
    fireEvent.change(screen.getByLabelText("Kind"), { target: { value: "one_of" } });
    fireEvent.click(screen.getByText("many"));
    fireEvent.change(screen.getByLabelText("Values of the new list"), { target: { value: "Oak\nAsh" } });
    make();
    await waitFor(() => expect(made).toHaveBeenCalled());
    expect(sent()).toMatchObject({ kind: "one_of", many: true, options: {}, values: "Oak\nAsh" });
  });

  it("has the focus at the box that is at fault", async () => {
    const { make } = open();
    fireEvent.change(screen.getByLabelText("Kind"), { target: { value: "one_of" } });
    const problem = { code: "kind_option", message: "It needs a list", help: "Type one", where: ["options", "list"] };
    vi.spyOn(client, "POST").mockResolvedValue({ error: problem, response: { ok: false, status: 422 } } as never);
    make();
    expect((await screen.findByRole("alert")).textContent).toBe("It needs a list. Type one");
    await waitFor(() => expect(document.activeElement).toBe(screen.getByLabelText("Values of the new list")));
  });

  it("holds one value where its kind can't hold several, whatever was chosen before", async () => {
    const { made, sent, make } = open();
    fireEvent.click(screen.getByText("many"));
    fireEvent.change(screen.getByLabelText("Kind"), { target: { value: "yes_no" } });
    make();
    await waitFor(() => expect(made).toHaveBeenCalled());
    expect(sent()).toMatchObject({ kind: "yes_no", many: false, values: null });
  });
});

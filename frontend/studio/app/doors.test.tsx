import { fireEvent, screen, waitFor } from "@testing-library/react";
import { Toaster } from "sonner";
import { describe, expect, it, vi } from "vitest";
import { NOUNS } from "../api/nouns";
import { here, Refusal, serve, show, writes } from "../testing";
import { FindOrDo } from "./FindOrDo";
import { KeysSheet } from "./KeysSheet";
import { SignIn } from "./SignIn";
import { STAGES } from "./stages";

describe("views", () => {
  it("has a view for every noun, in which things are opened by the address", () => {
    const opening = STAGES.flatMap(({ code, views }) =>
      views.filter((view) => view.opens).map((view) => `/${code}/${view.path}`),
    );
    expect(opening).toEqual(expect.arrayContaining(Object.values(NOUNS).map((noun) => noun.base)));
  });
});

describe("signing in", () => {
  const fill = () => {
    fireEvent.change(screen.getByLabelText("E-mail address"), { target: { value: "rosa@saltmarsh.example" } });
    fireEvent.change(screen.getByLabelText("Password"), { target: { value: "tide" } });
    fireEvent.click(screen.getByText("Sign in"));
  };

  it("sends address and password with a fresh token", async () => {
    const done = vi.fn();
    const asked = serve({
      "GET /api/session": { csrf: "before", name: null },
      "POST /api/session": { csrf: "after", name: "Rosa Marsh" },
    });
    show(<SignIn onDone={done} />);
    fill();
    await waitFor(() => expect(done).toHaveBeenCalledWith({ csrf: "after", name: "Rosa Marsh" }));
    expect(asked[1]?.headers.get("X-CSRF-Token")).toBe("before");
    expect(writes(asked)[0]?.[2]).toEqual({ email: "rosa@saltmarsh.example", password: "tide" });
  });

  it("says when they don't fit, and keeps both", async () => {
    serve({
      "GET /api/session": { csrf: "t", name: null },
      "POST /api/session": new Refusal(401, "sign_in", { message: "This address and password don't fit" }),
    });
    show(<SignIn onDone={() => undefined} />);
    fill();
    expect((await screen.findByRole("alert")).textContent).toBe("This address and password don't fit");
    expect(screen.getByLabelText<HTMLInputElement>("E-mail address").value).toBe("rosa@saltmarsh.example");
    expect(screen.getByText<HTMLButtonElement>("Sign in").disabled).toBe(false);
  });

  it("again says that what was typed is kept", () => {
    show(<SignIn again onDone={() => undefined} />);
    expect(screen.getByText(/What you typed is kept/)).toBeTruthy();
    expect(screen.queryByRole("heading")).toBeNull();
  });
});

const UNDONE = { name: "Weighs", noun: "field", key: "ss_weighs", lines: ["help changed"], job: null, count: 6 };

describe("find or do", () => {
  const hits = [
    { noun: "product", key: "4", name: "Jetty easel", note: "JTY" },
    { noun: "field", key: "ss_wood", name: "Wood", note: "ss_wood" },
  ];
  const open = (answer: object = { hits }) => {
    const asked = serve({ "GET /api/find": answer, "POST /api/undo": UNDONE });
    const close = vi.fn();
    const keys = vi.fn();
    show(
      <>
        <Toaster />
        <FindOrDo open onClose={close} onKeys={keys} />
      </>,
    );
    return { asked, close, keys };
  };

  it("chooses the best of what is found, whatever it is, and goes there by Enter", async () => {
    const { close } = open();
    const box = screen.getByRole("combobox");
    fireEvent.change(box, { target: { value: "wo" } });
    await waitFor(() => expect(document.querySelector("[data-selected=true]")?.textContent).toContain("Jetty"));
    fireEvent.keyDown(box, { key: "Enter" });
    expect(close).toHaveBeenCalled();
    expect(here()).toBe("/fill/products/4");
  });

  it("knows values of lists, and opens them in their list", async () => {
    open({ hits: [{ noun: "list_value", key: "wood/ash", name: "Ash", note: "Wood" }] });
    fireEvent.change(screen.getByRole("combobox"), { target: { value: "ash" } });
    fireEvent.click(await screen.findByText("Ash"));
    expect(here()).toBe("/define/lists/wood?value=ash");
  });

  it("finds commands by any of their words", async () => {
    open({ hits: [] });
    fireEvent.change(screen.getByRole("combobox"), { target: { value: "gaps show" } });
    fireEvent.click(await screen.findByText("Show products with gaps"));
    expect(here()).toBe("/fill/products?gaps=1");
  });

  it("undoes, and shows the keys", async () => {
    const { asked, keys } = open({ hits: [] });
    fireEvent.click(screen.getByText("Undo my last change"));
    await waitFor(() => expect(writes(asked)).toHaveLength(1));
    expect(await screen.findByText("Undone: Weighs and 5 more changes of one stroke")).toBeTruthy();
    fireEvent.click(screen.getByText("Show it"));
    expect(here()).toBe("/define/fields/ss_weighs");
    fireEvent.click(screen.getByText("Show all keys"));
    expect(keys).toHaveBeenCalled();
  });

  it("says when nothing has that in its name", async () => {
    open({ hits: [] });
    fireEvent.change(screen.getByRole("combobox"), { target: { value: "zzz" } });
    expect(await screen.findByText("Nothing has that in its name.")).toBeTruthy();
  });
});

describe("the sheet of keys", () => {
  it("names every key", () => {
    show(<KeysSheet open onClose={() => undefined} />);
    for (const key of ["1 – 5", "Ctrl K", "Ctrl Z", "?", "/", "N", "P", "W", "H"])
      expect(screen.getByText(key)).toBeTruthy();
  });
});

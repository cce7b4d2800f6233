import { fireEvent, screen, waitFor } from "@testing-library/react";
import { describe, expect, it, vi } from "vitest";
import { here, META, NOTHING_TOUCHED, serve, show, writes } from "../testing";
import { ProofPane } from "./ProofPane";
import { NotShown, WhyPanel } from "./Why";

const step = (name: string, ok: boolean | null, text: string, mend: object | null = null) => ({ name, ok, text, mend });
const FAILED = {
  shows: false,
  title: "Estuary Easel",
  deciders: [],
  field_name: "Wood",
  steps: [
    step("visible", true, "The product is in the shop"),
    step("shown", false, "Not shown on the listing card by default", {
      text: "Show it there",
      noun: "display_setting",
      key: "default/ss_wood/listing_card",
    }),
    step("slot", true, "The layout has a place"),
    step("value", null, "Not looked at"),
  ],
};

const LISTED = {
  shows: true,
  field_name: "Easels",
  title: "Jetty easel",
  deciders: [],
  steps: [step("visible", true, "The product is in the shop"), step("belongs", true, "It is an easel")],
};

describe("why", () => {
  it("mends in one press what one setting mends, after saying what it touches", async () => {
    const [, shown] = FAILED.steps;
    const mend = { ...(shown?.mend as object), says: { shown: true } };
    const asked = serve({
      "GET /api/why": { ...FAILED, steps: [step("shown", false, "Not shown", mend)] },
      "GET /api/meta": META,
      "GET /api/session": { rights: ["edit"] },
      "GET /api/weave/cell": { version: 3, properties: [] },
      "POST /api/display_settings/consequences": NOTHING_TOUCHED,
      "PATCH /api/display_settings": { version: 4 },
    });
    const props = { surface: "listing_card", device: "phone" as const, onSurface: vi.fn(), onClose: vi.fn() };
    show(<WhyPanel about={{ product: 4 }} field="ss_wood" {...props} />);
    fireEvent.click(await screen.findByRole("button", { name: "Show it there" }));
    const cell = { scope: "shop", field: "ss_wood", surface: "listing_card", set: { shown: true }, version: 3 };
    await waitFor(() => expect(writes(asked).at(-1)).toEqual(["PATCH", "/api/display_settings", cell]));
  });

  const panel = (answer: object) => {
    serve({ "GET /api/why": answer, "GET /api/meta": META });
    const surface = vi.fn();
    const close = vi.fn();
    show(
      <WhyPanel
        about={{ product: 4 }}
        field="ss_wood"
        surface="listing_card"
        device="phone"
        onSurface={surface}
        onClose={close}
      />,
    );
    return { surface, close };
  };

  it("tells the chain, the first failure with the place to mend it", async () => {
    panel(FAILED);
    await screen.findByText("Why is “Wood” missing from the listing card?");
    const rows = screen.getAllByRole("listitem");
    expect(rows.map((row) => row.dataset.ok)).toEqual(["true", "false", "true", "null"]);
    expect(rows[1]?.textContent).toContain("Failed: Not shown on the listing card by default.");
    expect(rows[3]?.textContent).toContain("Not asked: ");
    const mend = screen.getByRole("link", { name: "Show it there" });
    expect(mend.getAttribute("href")).toBe("/present/weave?field=ss_wood&cell=listing_card");
  });

  it("tells what else decides, and what of it is overridden", async () => {
    const deciders = [
      {
        noun: "display_setting",
        key: "type:paint/ss_wood/listing_card",
        name: "Paint",
        says: "now shown",
        holds: true,
      },
      { noun: "block", key: "card/facts", name: "facts", says: "takes the field", holds: true },
      {
        noun: "display_setting",
        key: "shop/*/*",
        name: "the shop",
        says: "label above, but Paint says otherwise",
        holds: false,
      },
    ];
    panel({ ...FAILED, deciders });
    fireEvent.click(await screen.findByText("What else decides about this? (3)"));
    expect(screen.getByRole("link", { name: "facts" }).getAttribute("href")).toBe("/present/layouts/card?block=facts");
    const rows = screen.getAllByRole("listitem").slice(-3);
    expect(rows.map((row) => row.dataset.holds)).toEqual(["true", "true", "false"]);
  });

  it("of what shows says so", async () => {
    panel({ ...FAILED, shows: true, steps: FAILED.steps.slice(0, 1) });
    expect(await screen.findByText("Why “Wood” shows on the listing card")).toBeTruthy();
  });

  it("can be asked of another surface, and left", async () => {
    const { surface, close } = panel(FAILED);
    fireEvent.change(await screen.findByLabelText("Surface"), { target: { value: "product_page" } });
    expect(surface).toHaveBeenCalledWith("product_page");
    fireEvent.click(screen.getByText(/close/));
    expect(close).toHaveBeenCalled();
  });
});

describe("what a page does not show", () => {
  const missing = (count: number) => ({
    missing: Array.from({ length: count }, (_, at) => ({
      key: `f${at}`,
      name: `Field ${at}`,
      step: step(at % 2 ? "value" : "shown", false, at === 1 ? "The value is wrong: below 60" : "There is no value"),
    })),
  });

  it("names those wanting a value first, with the reason in a word", async () => {
    serve({ "GET /api/missing": missing(3) });
    const pick = vi.fn();
    show(<NotShown product={4} surface="product_page" device="phone" onAsk={pick} />);
    await screen.findByText("Not on this page");
    expect(screen.getAllByRole("button").map((button) => button.textContent)).toEqual([
      "Field 1",
      "Field 0",
      "Field 2",
    ]);
    expect(screen.getByText("is wrong")).toBeTruthy();
    fireEvent.click(screen.getByText("Field 2"));
    expect(pick).toHaveBeenCalledWith("f2");
  });

  it("keeps a long list short until it is asked for whole", async () => {
    serve({ "GET /api/meta": META, "GET /api/missing": missing(40) });
    show(<NotShown product={4} surface="listing_card" device="phone" onAsk={() => undefined} />);
    await screen.findByText("Not on this card");
    expect(screen.getAllByRole("button")).toHaveLength(25);
    fireEvent.click(screen.getByText("and 16 more"));
    expect(screen.getAllByRole("button")).toHaveLength(40);
  });

  it("says when all of it shows", async () => {
    serve({ "GET /api/missing": { missing: [] } });
    show(<NotShown product={4} surface="product_page" device="phone" onAsk={() => undefined} />);
    expect(await screen.findByText("Everything it has is shown.")).toBeTruthy();
  });
});

describe("the proof", () => {
  const answers = {
    "GET /api/product": {},
    "GET /api/products/4": { id: 4, title: "Jetty easel", type: "easels" },
    "GET /api/missing": { missing: [] },
    "GET /api/meta": META,
    "GET /api/why": FAILED,
    "GET /api/why/listing": LISTED,
    "GET /api/find": { hits: [{ noun: "product", key: "9", name: "Groyne easel", note: "GRY" }] },
  };

  it("is the true page in a frame of the device's width", async () => {
    serve(answers);
    show(<ProofPane product={4} />);
    const frame = await screen.findByTitle<HTMLIFrameElement>("The page as shoppers would see it");
    expect(frame.getAttribute("src")).toBe("/proof/surface/product_page/4");
    expect(frame.style.width).toBe("390px");
    fireEvent.click(screen.getByText("Desktop"));
    expect(here()).toBe("/?device=desktop");
    await waitFor(() =>
      expect(screen.getByTitle<HTMLIFrameElement>(/The page as shoppers/).style.width).toBe("1280px"),
    );
  });

  it("turns to the listing of the product's type", async () => {
    serve(answers);
    show(<ProofPane product={4} />);
    fireEvent.change(await screen.findByLabelText("What is proved"), { target: { value: "listing" } });
    await waitFor(() => expect(screen.getByTitle(/The page/).getAttribute("src")).toBe("/proof/type/easels"));
    expect(await screen.findByText("Why “Jetty easel” stands on Easels")).toBeTruthy();
    expect(screen.getByText(/It is an easel/)).toBeTruthy();
  });

  it("says by which rule a product is not on a listing, and where to mend it", async () => {
    const off = [
      step("belongs", false, "It was kept out by hand", {
        text: "Open the collection",
        noun: "collection",
        key: "box",
      }),
    ];
    serve({ ...answers, "GET /api/why/listing": { ...LISTED, shows: false, field_name: "A box", steps: off } });
    show(
      <ProofPane
        product={4}
        listing={{ proof: "/proof/collection/box", noun: "collection", key: "box", first: true }}
      />,
    );
    expect(await screen.findByText("Why is “Jetty easel” not on A box?")).toBeTruthy();
    expect(screen.getByRole("link", { name: "Open the collection" }).getAttribute("href")).toBe(
      "/compose/collections/box",
    );
  });

  it("is of any surface, with what is live beside it on wish", async () => {
    serve(answers);
    show(<ProofPane product={4} />);
    fireEvent.change(await screen.findByLabelText("What is proved"), { target: { value: "listing_card" } });
    const draft = await screen.findByTitle(/The page as shoppers/);
    expect(draft.getAttribute("src")).toBe("/proof/surface/listing_card/4");
    fireEvent.click(screen.getByText("Live"));
    const live = await screen.findByTitle("The page as it is live");
    expect(live.getAttribute("src")).toBe("/proof/live/listing_card/4?against=/proof/surface/listing_card/4");
    expect(here()).toContain("live=1");
  });

  it("asks why of what is pressed in the page, and of nothing from elsewhere", async () => {
    serve(answers);
    show(<ProofPane product={4} />);
    fireEvent(window, new MessageEvent("message", { origin: "https://elsewhere.example", data: { pick: "title" } }));
    expect(here()).toBe("/");
    fireEvent(window, new MessageEvent("message", { origin: window.location.origin, data: { pick: "ss_wood" } }));
    expect(here()).toBe("/?why=ss_wood");
    expect(await screen.findByText(/Why is “Wood” missing/)).toBeTruthy();
    fireEvent.keyDown(window, { key: "Escape" });
    expect(here()).toBe("/");
  });

  it("can prove another product", async () => {
    serve(answers);
    const pick = vi.fn();
    show(<ProofPane product={4} onPick={pick} />);
    fireEvent.click(await screen.findByText("Jetty easel"));
    fireEvent.change(await screen.findByLabelText("Find a product"), { target: { value: "gro" } });
    fireEvent.click(await screen.findByText("Groyne easel"));
    expect(pick).toHaveBeenCalledWith(9);
  });

  it("says what is wanting when there is nothing to prove with", () => {
    show(<ProofPane product={null} />);
    expect(screen.getByText("No product to prove with")).toBeTruthy();
  });
});

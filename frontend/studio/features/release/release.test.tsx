import { useQuery } from "@tanstack/react-query";
import { act, fireEvent, screen, waitFor } from "@testing-library/react";
import { Toaster } from "sonner";
import { describe, expect, it } from "vitest";
import type { Schemas } from "../../api/client";
import { ask } from "../../api/queries";
import { endWords, jobWords, useReleaseNews } from "../../app/releaseNews";
import { documentWords } from "../../considering/Consequences";
import { here, META, Refusal, serve, show, writes } from "../../testing";
import ChangesView from "./ChangesView";
import ChecksView from "./ChecksView";
import { placeWords } from "./Compare";
import HistoryView from "./HistoryView";

type Job = Schemas["JobOut"];
const job = (state: Job["state"], more: Partial<Job> = {}): Job =>
  ({ id: 7, kind: "release", state, person: "Rosa Marsh", done: 0, total: 0, result: {}, ...more }) as Job;

describe("a release in words", () => {
  it("tells how far it is", () => {
    expect(jobWords(job("waiting"))).toBe("release waits");
    expect(jobWords(job("running"))).toBe("releasing");
    expect(jobWords(job("running", { done: 355, total: 1000 }))).toBe("releasing, 35 %");
  });
  it("tells what became of it", () => {
    const words = (counts: Record<string, number>) => documentWords(counts, META.surfaces);
    const counts = { product_page: 1, listing_card: 1200 };
    expect(endWords(job("done", { result: { number: 5, counts } }), words)).toEqual([
      "Release 5 is live",
      "1 page, 1,200 cards changed",
    ]);
    const held = { number: 5, counts, held_back: [[4, "Board 850", "no address"]] };
    expect(endWords(job("done", { result: held }), words)[1]).toContain("1 product held back");
    expect(endWords(job("stopped"), words)[1]).toBe("Nothing changed in the shop");
    expect(
      endWords(job("failed", { result: { message: "The worker was lost", help: "Release again" } }), words),
    ).toEqual(["The worker was lost", "Release again"]);
  });
});

const CHANGE = {
  group: "What it is",
  noun: "field",
  key: "ss_weight",
  name: "Paper weight",
  lines: ["largest 850 → 640"],
  surfaces: { product_page: 20, listing_card: 0 },
  held_back: null,
  example: null,
};
const CHECKS = {
  checks: [
    { code: "wrong", level: "wrong", text: "1 value is wrong in Weight", count: 1, link: ["wrong", "ss_weight"] },
    { code: "unused", level: "look", text: "Old note is on no type", count: 1, link: ["field", "ss_old"] },
    { code: "required", level: "good", text: "No product lacks a required value", count: 0, link: null },
  ],
};

function answers(counts: object, rights = ["look", "edit", "release"], count = 1) {
  return {
    "GET /api/meta": META,
    "GET /api/pending": { count, surfaces: { product_page: 20, listing_card: 0 }, things: count ? [CHANGE] : [] },
    "GET /api/session": { csrf: "t", name: "Rosa Marsh", email: "r", rights },
    "GET /api/counts": { unreleased: 1, gaps: 0, release: 1, job: null, ...counts },
    "GET /api/checks": CHECKS,
    "GET /api/product_types": { things: [] },
    "GET /api/example": { product: null, title: "" },
    "GET /api/differing": { rows: [], whole: true },
  };
}

function Watched() {
  useReleaseNews(useQuery(ask.counts()).data?.job);
  return (
    <>
      <ChangesView />
      <Toaster />
    </>
  );
}

const BETWEEN = {
  before: 1,
  after: 2,
  count: 2,
  things: [{ group: "Fields", noun: "field", key: "ss_hue", name: "Hue", lines: ["label “Hue” → “Shade”"] }],
  surfaces: { product_page: 4 },
  differing: { rows: [{ id: 7, title: "Easel", type: "easels", surfaces: ["product_page"] }], whole: true },
};

describe("what will change", () => {
  it("is released after one more question, with a note", async () => {
    const asked = serve({ ...answers({}), "POST /api/releases": job("waiting") });
    show(<ChangesView />);
    fireEvent.click(await screen.findByText("Release now"));
    expect(await screen.findByText(/1 check found something wrong/)).toBeTruthy();
    fireEvent.change(screen.getByLabelText(/What it is about/), { target: { value: "Lighter papers" } });
    fireEvent.click(screen.getByText("Release"));
    await waitFor(() => expect(writes(asked)).toEqual([["POST", "/api/releases", { note: "Lighter papers" }]]));
    await waitFor(() => expect(screen.queryByRole("dialog")).toBeNull());
  });

  it("stays open when the release is refused", async () => {
    serve({
      ...answers({}),
      "POST /api/releases": new Refusal(422, "busy", { message: "A release is being made already" }),
    });
    show(<ChangesView />);
    fireEvent.click(await screen.findByText("Release now"));
    fireEvent.click(await screen.findByText("Release"));
    await waitFor(() => expect(screen.getByText("Release").getAttribute("aria-busy")).toBeNull());
    expect(screen.getByRole("dialog")).toBeTruthy();
  });

  it("is asked for once, and its button keeps the focus", async () => {
    const asked = serve({ ...answers({}), "POST /api/releases": new Promise(() => undefined) });
    show(<ChangesView />);
    fireEvent.click(await screen.findByText("Release now"));
    const button = await screen.findByText("Release");
    act(() => button.focus());
    fireEvent.click(button);
    expect(await screen.findByText("Releasing…")).toBe(document.activeElement);
    fireEvent.click(button);
    fireEvent.click(button);
    expect(writes(asked)).toHaveLength(1);
  });

  it("shows how far a release is, and stops it", async () => {
    const asked = serve({
      ...answers({ job: job("running", { done: 3400, total: 10000 }) }),
      "POST /api/jobs/7/stop": job("running"),
    });
    show(<ChangesView />);
    expect(await screen.findByText("34 % done, by Rosa Marsh")).toBeTruthy();
    expect(screen.getByRole("progressbar").getAttribute("aria-valuenow")).toBe("34");
    expect((await screen.findByText<HTMLButtonElement>("Release now")).disabled).toBe(true);
    fireEvent.click(screen.getByText("Stop it"));
    await waitFor(() => expect(writes(asked)).toEqual([["POST", "/api/jobs/7/stop", ""]]));
  });

  it("tells the end of a release that was seen under way", async () => {
    let now: Job = job("running", { done: 1, total: 2 });
    const given = answers({});
    serve({ ...given, "GET /api/counts": () => ({ unreleased: 0, gaps: 0, release: 2, job: now }) });
    show(<Watched />);
    await screen.findByText(/50 % done/);
    now = job("done", { result: { number: 2, pages: 20, cards: 0 } });
    expect(await screen.findByText("Release 2 is live", {}, { timeout: 3000 })).toBeTruthy();
    await waitFor(() => expect(screen.queryByRole("progressbar")).toBeNull());
  });

  it("says nothing of a release that ended before one came", async () => {
    serve(answers({ job: job("done", { result: { number: 9, pages: 1, cards: 1 } }) }));
    show(<Watched />);
    await screen.findByText("Release now");
    await act(async () => new Promise((done) => setTimeout(done, 50)));
    expect(screen.queryByText("Release 9 is live")).toBeNull();
  });

  it("is for those who may", async () => {
    serve(answers({}));
    show(<ChangesView />, "/", ["look", "edit"]);
    const button = await screen.findByText<HTMLButtonElement>("Release now");
    await waitFor(() => expect(button.title).toBe("You may not release"));
    expect(button.disabled).toBe(true);
  });

  it("says when all is live", async () => {
    serve(answers({}, undefined, 0));
    show(<ChangesView />);
    expect(await screen.findByText("All is live")).toBeTruthy();
    expect(screen.getByText("Nothing to compare")).toBeTruthy();
  });
});

describe("before and after", () => {
  const row = (id: number, title: string, page: boolean) => ({
    id,
    title,
    type: "paper",
    surfaces: page ? ["product_page", "listing_card"] : ["listing_card"],
  });
  const compare = (differing: object) => {
    serve({
      ...answers({}),
      "GET /api/differing": differing,
      "GET /api/product_types": {
        things: [{ thing: { key: "paper", name: "Paper", slug: "paper" }, ancestors: [], path: "Paper" }],
      },
    });
    show(<ChangesView />);
  };
  const frames = () => [...document.querySelectorAll("iframe")].map((frame) => frame.getAttribute("src"));

  it("shows the pages that really differ, one after the other", async () => {
    compare({ rows: [row(4, "Board 850", true), row(9, "Board 900", false)], whole: true });
    expect(await screen.findByText("on Board 850, 1 of 2 that differ")).toBeTruthy();
    expect(frames()).toEqual(["/proof/live/4?against=/proof/product/4", "/proof/product/4?against=/proof/live/4"]);
    fireEvent.click(screen.getByLabelText("The next one"));
    expect(await screen.findByText("Board 900 on the listing Paper, 2 of 2 that differ")).toBeTruthy();
    expect(frames()).toEqual(["/shop/c/paper", "/proof/type/paper?against=/shop/c/paper"]);
    expect(screen.getByLabelText<HTMLButtonElement>("The next one").disabled).toBe(true);
  });

  it("says when shoppers see no difference", async () => {
    compare({ rows: [], whole: true });
    expect(await screen.findByText("Shoppers will see no difference.")).toBeTruthy();
  });

  it("says in words how many there are", () => {
    const rows = [row(4, "Board", true)];
    expect(placeWords({ rows, whole: true }, 0)).toBe("on Board, the only one that differs");
    expect(placeWords({ rows, whole: false }, 0)).toBe("on Board, 1 of at least 1 that differ");
    expect(placeWords({ rows: [], whole: true }, 0)).toBe("");
  });
});

describe("checks", () => {
  it("come wrong first, each with the place to mend it", async () => {
    serve(answers({}));
    show(<ChecksView />);
    const titles = (await screen.findAllByRole("heading", { level: 3 })).map((heading) => heading.textContent);
    expect(titles).toEqual(["Wrong 1", "Worth a look 1", "Good 1"]);
    expect(screen.getByRole("link", { name: "Open them" }).getAttribute("href")).toBe("/fill/products?wrong=ss_weight");
    expect(screen.getByRole("link", { name: "Open it" }).getAttribute("href")).toBe("/define/fields/ss_old");
  });
});

const release = (number: number, note = "") => ({
  number,
  at: "2026-03-01T12:00:00Z",
  person: "Rosa Marsh",
  note,
  things: 1,
  counts: { product_page: 2, listing_card: 3 },
  held_back: [],
  back_to: null,
});

describe("history", () => {
  it("goes back to an earlier release after a question", async () => {
    const asked = serve({
      ...answers({}),
      "GET /api/releases": { current: 2, releases: [release(2, "Papers"), release(1)] },
      "GET /api/changes": { changes: [] },
      "GET /api/releases/between": BETWEEN,
      "POST /api/releases/1/back": release(3, "Back to release 1"),
    });
    show(<HistoryView />, "/release/history");
    expect(await screen.findByText("number 2 is live")).toBeTruthy();
    expect(screen.getByText("1. without a note")).toBeTruthy();
    expect(screen.getAllByText("Go back to it")).toHaveLength(1);
    fireEvent.click(screen.getByText("Go back to it"));
    expect(await screen.findByText("2 things and 4 pages will be as they were then.")).toBeTruthy();
    expect(screen.getByText("label “Hue” → “Shade”")).toBeTruthy();
    fireEvent.click(screen.getByText("Go back"));
    await waitFor(() => expect(writes(asked)).toEqual([["POST", "/api/releases/1/back", { note: "" }]]));
    expect(here()).toBe("/release/history");
  });

  it("opens a release: what it changed, what it left behind, and its pages before and after", async () => {
    serve({
      ...answers({}),
      "GET /api/releases": {
        current: 2,
        releases: [{ ...release(2, "Second"), held_back: [[4, "Board", "no SKU"]] }, release(1)],
      },
      "GET /api/releases/between": BETWEEN,
    });
    show(<HistoryView />, "/release/history");
    fireEvent.click(await screen.findByText("2. Second"));
    expect(await screen.findByText("label “Hue” → “Shade”")).toBeTruthy();
    expect(here()).toBe("/release/history?release=2");
    expect(screen.getByText("Board").closest("li")?.textContent).toBe("Board stayed as it was: no SKU");
    expect(screen.getByTitle("With release 1").getAttribute("src")).toBe(
      "/proof/at/1/product_page/7?against=/proof/at/2/product_page/7",
    );
    expect(screen.getByText("on Easel, 1 of 1 that differ")).toBeTruthy();
  });

  it("goes further back on demand", async () => {
    const asked = serve({
      ...answers({}),
      "GET /api/releases": ({ query }: { query: URLSearchParams }) => ({
        current: 40,
        releases: query.get("before")
          ? [release(10, "Oldest")]
          : Array.from({ length: 30 }, (_, at) => release(40 - at)),
      }),
      "GET /api/changes": { changes: [] },
    });
    show(<HistoryView />);
    fireEvent.click(await screen.findByText("Show earlier ones"));
    expect(await screen.findByText("10. Oldest")).toBeTruthy();
    expect(asked.some((request) => request.query.get("before") === "11")).toBe(true);
  });
});

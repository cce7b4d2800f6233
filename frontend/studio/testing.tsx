import { QueryClient, QueryClientProvider } from "@tanstack/react-query";
import { act, cleanup, configure, fireEvent, render, screen } from "@testing-library/react";
import { type ReactNode, useEffect } from "react";
import { MemoryRouter, useLocation } from "react-router";
import { afterEach, vi } from "vitest";
import type { Problem } from "./api/client";
import { ConsideringProvider } from "./considering/Considering";
import { SavingProvider } from "./state/saving";
import { TipProvider } from "./ui/basics";
import { type Right, Rights } from "./ui/rights";

/** What the studio asks once, as far as tests need it. */
export const META = {
  prefix: "ss_",
  kinds: [],
  units: [],
  schema_org: [],
  nouns: [],
  surfaces: [
    {
      code: "product_page",
      name: "product page",
      counted: ["page", "pages"],
      addressed: true,
      listed: false,
      subject: "product",
    },
    {
      code: "listing_card",
      name: "listing card",
      counted: ["card", "cards"],
      addressed: false,
      listed: true,
      subject: "product",
    },
  ],
  properties: [
    { code: "shown", name: "Show", control: "switch", choices: [] },
    {
      code: "label",
      name: "Label",
      control: "choice",
      choices: [
        { value: "beside", label: "beside" },
        { value: "above", label: "above" },
      ],
    },
    { code: "label_text", name: "Words", control: "text", choices: [] },
    {
      code: "devices",
      name: "Devices",
      control: "choices",
      choices: ["phone", "tablet", "desktop"].map((value) => ({ value, label: value })),
    },
  ],
};

export type Asked = { method: string; path: string; query: URLSearchParams; body: unknown; headers: Headers };
type Answer = unknown | ((asked: Asked) => unknown);

/** What a change touches that makes nothing differ. */
export const NOTHING_TOUCHED = {
  types: 0,
  products: 0,
  surfaces: {},
  effects: null,
  moves: { gone: [], come: [] },
  variants: null,
  lines: [],
  exact: true,
};

/** A refusal as the server gives it. */
export class Refusal {
  readonly problem: Problem;
  constructor(
    readonly status: number,
    code: string,
    more: Partial<Problem> = {},
  ) {
    this.problem = { code, message: "It can't be so", where: [], help: "Mend it", ...more } as Problem;
  }
}

/** Stands in for the server: answers by `GET /api/lists`, and keeps what it was asked. A question without an answer fails. */
export function serve(answers: Record<string, Answer>): Asked[] {
  const asked: Asked[] = [];
  vi.stubGlobal("fetch", async (input: Request) => {
    const url = new URL(input.url);
    const text = await input.clone().text();
    const body = text.startsWith("{") ? JSON.parse(text) : text;
    const request = { method: input.method, path: url.pathname, query: url.searchParams, body, headers: input.headers };
    asked.push(request);
    const name = `${request.method} ${request.path}`;
    if (!(name in answers)) throw new TypeError(`nothing answers ${name}`);
    const answer = answers[name];
    const given = typeof answer === "function" ? await answer(request) : answer;
    if (given instanceof Refusal) return Response.json(given.problem, { status: given.status });
    return Response.json(given);
  });
  return asked;
}

/** What was written, in order. */
export function writes(asked: Asked[]): [string, string, unknown][] {
  return asked
    .filter((request) => request.method !== "GET")
    .map((request) => [request.method, request.path, request.body]);
}

let address = "";
function Watch() {
  const at = useLocation();
  useEffect(() => {
    address = at.pathname + at.search;
  }, [at]);
  return null;
}

/** Where the studio is now. */
export function here(): string {
  return address;
}

/** Show a part of the studio at an address, with all that surrounds it, to somebody with rights or, without, with all. */
export function show(part: ReactNode, at = "/", rights?: readonly Right[]) {
  const queries = new QueryClient({ defaultOptions: { queries: { retry: false } } });
  return render(
    <QueryClientProvider client={queries}>
      <TipProvider>
        <MemoryRouter initialEntries={[at]}>
          <SavingProvider>
            <Watch />
            <ConsideringProvider>{rights ? <Rights rights={rights}>{part}</Rights> : part}</ConsideringProvider>
          </SavingProvider>
        </MemoryRouter>
      </TipProvider>
    </QueryClientProvider>,
  );
}

/** The cell of a grid under a column and in a row, both by what is written there. */
export function cellAt(row: string, column: string): HTMLElement {
  const head = screen.getAllByRole("columnheader").find(({ textContent }) => textContent?.includes(column));
  const line = screen.getAllByRole("rowheader").find(({ textContent }) => textContent?.includes(row))?.parentElement;
  const found = line?.querySelector<HTMLElement>(`[aria-colindex="${head?.getAttribute("aria-colindex")}"]`);
  if (!found) throw new Error(`no cell ${column} of ${row}`);
  return found;
}

/** Types over a cell, and leaves it by a key. */
export function typeOver(cell: HTMLElement, text: string, end = "Enter"): void {
  act(() => cell.focus());
  fireEvent.keyDown(cell, { key: text[0] ?? "Delete" });
  const box = document.activeElement as HTMLInputElement;
  fireEvent.change(box, { target: { value: text } });
  fireEvent.keyDown(box, { key: end });
}

/** Browsers have these, jsdom does not. */
export function furnish(narrow = false): void {
  class Observer {
    observe() {}
    unobserve() {}
    disconnect() {}
  }
  vi.stubGlobal("ResizeObserver", Observer);
  vi.stubGlobal("IntersectionObserver", Observer);
  vi.stubGlobal("matchMedia", (query: string) => ({
    matches: narrow && query.includes("1099"),
    addEventListener: () => undefined,
    removeEventListener: () => undefined,
  }));
  vi.stubGlobal("CSS", { escape: (text: string) => text, supports: () => false });
  // Grids draw what there is room for.
  for (const [side, size] of [
    ["clientHeight", 600],
    ["clientWidth", 1400],
  ] as const)
    Object.defineProperty(HTMLElement.prototype, side, { configurable: true, get: () => size });
  Element.prototype.scrollTo = () => undefined;
  Element.prototype.scrollIntoView = () => undefined;
  Element.prototype.hasPointerCapture = () => false;
}

// How long a slow machine may take to answer; what never comes fails all the same.
configure({ asyncUtilTimeout: 15_000 });
furnish();
afterEach(() => {
  cleanup();
  vi.unstubAllGlobals();
  furnish();
  document.body.innerHTML = "";
});

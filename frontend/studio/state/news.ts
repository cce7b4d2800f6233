import { type Query, type QueryClient, useQueryClient } from "@tanstack/react-query";
import { useEffect, useRef, useState } from "react";
import { useLocation } from "react-router";
import { client, data, Refused, type Schemas, WINDOW } from "../api/client";
import { isTouched, NOUNS, PRODUCT, thingAt } from "../api/nouns";
import { useSaving } from "./saving";

type Item = Schemas["NewsItemOut"];
/** Who else has the open thing open, and who wrote it last while it was. */
export type Beside = { people: string[]; by: string | null; at: number };

const NOBODY: Beside = { people: [], by: null, at: 0 };
const EVERY = 1500;
const AFTER_FAILURE = 4000;
/** Lists and counts follow what others fill, but no faster than this. */
const LISTS_EVERY = 10_000;
const DEFINITIONS = new Set<string>([...Object.keys(NOUNS), "display_setting", "job"]);

/**
 * Listens for what others write: what shows it is asked anew, lists of what they fill a little later. Gives who is beside
 * one in the thing that is open.
 */
export function useNews(): Beside {
  const { pathname } = useLocation();
  const { freshen } = useSaving();
  const queries = useQueryClient();
  const [beside, setBeside] = useState<Beside>(NOBODY);
  const open = thingAt(pathname);
  const at = useRef(open);
  at.current = open;
  const id = open ? `${open.noun}/${open.key}` : "";
  // biome-ignore lint/correctness/useExhaustiveDependencies: another thing is open: others are beside it
  useEffect(() => setBeside(NOBODY), [id]);
  const hear = useHearing(queries, freshen);
  useEffect(() => {
    let timer = 0;
    let mark: number | null = null;
    let over = false;
    const told = new Set<number>();
    async function ask() {
      if (document.visibilityState === "hidden") return;
      const here = at.current;
      try {
        const body = { window: WINDOW, noun: here?.noun ?? "", key: here?.key ?? "", since: mark };
        const found = await data(client.POST("/api/news", { body }));
        if (over) return;
        mark = found.mark;
        const fresh = found.items.filter((item) => !told.has(item.id));
        for (const item of fresh) told.add(item.id);
        if (told.size > 5000) told.clear();
        hear(fresh, found.missed);
        if (here?.key === at.current?.key) {
          const by = here && fresh.findLast((item) => isOf(item, here.noun, here.key));
          setBeside((old) => nextBeside(old, found.people, by ? (by.mine ? "You, elsewhere," : by.by) : null));
        }
        timer = window.setTimeout(ask, EVERY);
      } catch (error) {
        if (!(error instanceof Refused)) throw error;
        timer = window.setTimeout(ask, AFTER_FAILURE);
      }
    }
    const again = () => {
      window.clearTimeout(timer);
      void ask();
    };
    document.addEventListener("visibilitychange", again);
    void ask();
    return () => {
      over = true;
      window.clearTimeout(timer);
      document.removeEventListener("visibilitychange", again);
    };
  }, [hear]);
  return beside;
}

/** The same object where nothing is another, so that nothing is drawn anew. */
function nextBeside(old: Beside, people: string[], by: string | null): Beside {
  const same = old.people.join("\n") === people.join("\n");
  return same && by === null ? old : { people, by: by ?? old.by, at: by === null ? old.at : Date.now() };
}

/** Whether a write was of a thing, or of what is asked of it: a product's variants and stock are its own. */
export function isOf(item: Item, noun: string, key: string): boolean {
  if (item.things === null) return false;
  return item.things.some((thing) => {
    const own = thing.noun === noun && thing.key === key;
    return own || (noun === PRODUCT && !DEFINITIONS.has(thing.noun) && thing.key.split("/")[0] === key);
  });
}

/** What is done about what was heard. */
function useHearing(queries: QueryClient, freshen: (noun?: string | readonly string[]) => Promise<void>) {
  const waits = useRef({ timer: 0, nouns: new Set<string>(), all: false });
  useEffect(() => () => window.clearTimeout(waits.current.timer), []);
  const latest = useRef(freshen);
  latest.current = freshen;
  return useRef((items: readonly Item[], missed: boolean) => {
    const later = waits.current;
    const nouns = [...new Set(items.flatMap((item) => item.nouns))];
    const defined = nouns.filter((noun) => DEFINITIONS.has(noun));
    if (defined.length > 0) void latest.current(defined);
    const filled = nouns.filter((noun) => !DEFINITIONS.has(noun));
    if (filled.length > 0) void queries.invalidateQueries({ predicate: (query) => concerns(query, items) });
    if (filled.length === 0 && !missed) return;
    for (const noun of filled) later.nouns.add(noun);
    later.all ||= missed;
    if (later.timer) return;
    later.timer = window.setTimeout(() => {
      const { all, nouns } = waits.current;
      waits.current = { timer: 0, nouns: new Set(), all: false };
      void latest.current(all ? undefined : [...nouns]);
    }, LISTS_EVERY);
  }).current;
}

/** Whether a question is of a product that was written, by the numbers that it names. */
export function concerns(query: Pick<Query, "queryKey">, items: readonly Item[]): boolean {
  const about = query.queryKey.slice(1).map((part) => {
    const number = typeof part === "object" && part !== null && "product" in part ? part.product : part;
    return String(number);
  });
  if (about.length === 0) return false;
  return items.some(
    (item) =>
      item.nouns.some((noun) => isTouched(query.queryKey[0], noun)) &&
      item.things?.some(({ noun, key }) => !DEFINITIONS.has(noun) && about.includes(key.split("/")[0] ?? "")),
  );
}

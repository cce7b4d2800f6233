import { useQueryClient } from "@tanstack/react-query";
import { useCallback } from "react";
import { client, data, type Schemas } from "../api/client";
import { ask } from "../api/queries";
import { useSaving } from "../state/saving";
import { useConsidering } from "./Considering";

export type CellAt = { scope: string; field: string; surface: string; version: number | null };
export type Said = Record<string, unknown>;
type Known = { drawn: number | null; version: number | null };

/** Writing cells, whole rows and columns: each write goes on from the version the last one answered with. */
export function usePutCell() {
  const { save, latest } = useSaving();
  return useCallback(
    ({ scope, field, surface, version: drawn }: CellAt, set: Said, done?: string) => {
      const mark = `display_setting/${scope}/${field}/${surface}`;
      const known = latest.get(mark) as Known | undefined;
      // A cell drawn anew says itself where it stands.
      if (!known || known.drawn !== drawn) latest.set(mark, { drawn, version: drawn });
      const write = async (version: number | null) => {
        const body = { scope, field, surface, set, version };
        const answer = await data(client.PATCH("/api/display_settings", { body }));
        latest.set(mark, { drawn, version: answer.version });
        return answer;
      };
      return save(() => write((latest.get(mark) as Known).version), { noun: "display_setting", over: write, done });
    },
    [save, latest],
  );
}

/** Choosing a layout for a scope, or none of its own: told with what it touches where pages would differ, and with an undo. */
export function usePutLayout() {
  const put = usePutCell();
  const consider = useConsidering();
  return (of: Omit<CellAt, "field">, layout: string | null, title: string) => {
    const at = { ...of, field: "*" };
    consider(
      title,
      `layout/${at.scope}/${at.surface}`,
      (signal) => touchedByOne(at, { layout }, signal),
      () => void put(at, { layout }, title),
    );
  };
}

/** Setting a cell that is not open, as a mend of what does not show: told with what it touches, and with an undo. */
export function useMendCell() {
  const put = usePutCell();
  const consider = useConsidering();
  const cache = useQueryClient();
  /** `key` names the cell: `scope/field/surface`, or `default` for a scope where nothing says so. */
  return async (key: string, set: Said, title: string) => {
    const [origin = "", field = "", surface = ""] = key.split("/");
    const scope = origin === "default" ? "shop" : origin;
    const { version } = await cache.fetchQuery({ ...ask.cell(scope, field, surface), staleTime: 0 });
    const at = { scope, field, surface, version };
    consider(
      title,
      `cell/${key}`,
      (signal) => touchedByOne(at, set, signal),
      () => void put(at, set, title),
    );
  };
}

/** What setting one cell would touch. */
export function touchedByOne(at: CellAt, set: Said, signal?: AbortSignal) {
  return data(client.POST("/api/display_settings/consequences", { body: { ...at, set }, signal }));
}

export type SetCell = Omit<CellAt, "scope"> & { set: Said };
/** So many cells the server takes at once. */
const MOST_AT_ONCE = 5000;

/** Setting many cells of a scope as one change, told with an undo. */
export function usePutSeveral() {
  const { save } = useSaving();
  return useCallback(
    (scope: string, cells: readonly SetCell[], done: string) => {
      const body = { scope, cells: cells.slice(0, MOST_AT_ONCE) as Schemas["CellIn"][] };
      return save(() => data(client.PATCH("/api/display_settings/several", { body })), {
        noun: "display_setting",
        done,
      });
    },
    [save],
  );
}

/** What setting many cells would touch, in one question: each to what it says and to one thing or another besides. */
export async function touchedBySeveral(
  scope: string,
  cells: readonly { field: string; surface: string; set?: Said }[],
  sets: Said[],
  signal?: AbortSignal,
) {
  const tried = cells.slice(0, MOST_AT_ONCE).map(({ field, surface, set = {} }) => ({ field, surface, set }));
  const body = { scope, cells: tried, sets };
  return (await data(client.POST("/api/display_settings/several/consequences", { body, signal }))).touched;
}

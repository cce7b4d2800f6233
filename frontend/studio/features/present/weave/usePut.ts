import { useCallback } from "react";
import { client, data, type Schemas } from "../../../api/client";
import { useSaving } from "../../../state/saving";

export type CellAt = { scope: string; field: string; surface: string; version: number | null };
export type Said = Record<string, unknown>;
type Known = { drawn: number | null; version: number | null };

/** Writing cells, whole rows and columns: each write goes on from the version the last one answered with. */
export function usePutCell() {
  const { save, latest } = useSaving();
  return useCallback(
    ({ scope, field, surface, version: drawn }: CellAt, set: Said) => {
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
      return save(() => write((latest.get(mark) as Known).version), { noun: "display_setting", over: write });
    },
    [save, latest],
  );
}

export type SetCell = Omit<CellAt, "scope"> & { set: Said };
const AT_ONCE = 400;

/** Setting many cells of a scope as one change, told with an undo; more than fit at once go in several. */
export function usePutSeveral() {
  const { save } = useSaving();
  return useCallback(
    (scope: string, cells: readonly SetCell[], done: string) => {
      const parts: SetCell[][] = [];
      for (let at = 0; at < cells.length; at += AT_ONCE) parts.push(cells.slice(at, at + AT_ONCE));
      return Promise.all(
        parts.map((part, index) =>
          save(
            () =>
              data(
                client.PATCH("/api/display_settings/several", { body: { scope, cells: part as Schemas["CellIn"][] } }),
              ),
            { noun: "display_setting", done: index === parts.length - 1 ? done : undefined },
          ),
        ),
      );
    },
    [save],
  );
}

/** What setting many cells would touch; of more than fit at once the first ones. */
export function touchedBySeveral(scope: string, cells: readonly SetCell[]) {
  const body = { scope, cells: cells.slice(0, AT_ONCE) as Schemas["CellIn"][] };
  return data(client.POST("/api/display_settings/several/consequences", { body }));
}

import { memo } from "react";
import type { Schemas } from "../../../api/client";
import { WEFT_WORDS, Weft, type WeftState } from "../../../ui/basics";

type Props = {
  row: Schemas["WeaveRow"];
  cell: Schemas["CellOut"];
  /** What the surface is called. */
  surface: string;
  chosen: boolean;
  /** Whether Tab stops here. */
  stop: boolean;
};

/** A cell of the weave. What its keys and presses do is said by the sheet it stands in. */
export const CellButton = memo(function CellButton({ row, cell, surface, chosen, stop }: Props) {
  const words = cellWords(row, cell, surface);
  return (
    <button
      type="button"
      data-cell
      data-row={row.key}
      data-surface={cell.surface}
      data-state={cell.state}
      tabIndex={stop ? 0 : -1}
      aria-pressed={chosen || undefined}
      className={`inline-grid h-7 w-10 place-items-center ${chosen ? "rounded bg-weld-tint outline outline-weld" : ""}`}
      aria-label={words}
      title={cell.reason || words}
    >
      <Weft state={cell.state as WeftState} />
    </button>
  );
});

/** A cell in words: what its pattern says, and where it comes from. */
export function cellWords(row: Schemas["WeaveRow"], cell: Schemas["CellOut"], surface: string): string {
  const from = cell.settings.shown && cell.state === "inherited" ? ` from ${cell.settings.shown.origin_name}` : "";
  return `${row.name} on the ${surface}: ${WEFT_WORDS[cell.state as WeftState]}${from}`;
}

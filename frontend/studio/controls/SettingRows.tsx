import type { Schemas } from "../api/client";
import { useMay } from "../ui/rights";
import { PROPERTY_CONTROLS } from "./properties";

export type SettingRow = Pick<Schemas["RulePropertyOut"], "code" | "name" | "control" | "value" | "own" | "choices"> & {
  origin: string;
  origin_name: string;
};

/** What can be set, each with its control, where it comes from, and a way back to inherited. */
export function SettingRows({
  rows,
  onPut,
}: {
  rows: readonly SettingRow[];
  /** Null takes what is set away. */
  onPut: (code: string, value: unknown) => void;
}) {
  const may = useMay("edit");
  return rows.map((row) => {
    const Control = PROPERTY_CONTROLS[row.control];
    return (
      Control && (
        <div key={row.code} className="contents">
          <span className="text-ink-2">{row.name}</span>
          <Control
            property={row}
            value={row.value}
            own={row.own ? row.value : undefined}
            onPut={(value) => onPut(row.code, value ?? null)}
          />
          {row.own && !may ? (
            <span className="text-[12px] font-semibold text-woad">set here</span>
          ) : row.own ? (
            <button
              type="button"
              className="link text-left text-[12px] font-semibold text-woad"
              title="Back to inherited"
              onClick={(event) => {
                // It goes with the answer: the focus is on what can be said again.
                event.currentTarget.parentElement?.querySelector<HTMLElement>("select, input, button")?.focus();
                onPut(row.code, null);
              }}
            >
              set here ✕
            </button>
          ) : (
            <span className="text-[12px] text-ink-3">
              {row.origin === "default" ? "default" : `from ${row.origin_name}`}
            </span>
          )}
        </div>
      )
    );
  });
}

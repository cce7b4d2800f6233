import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { ask } from "../../../api/queries";
import { useDocumentWords } from "../../../considering/Consequences";
import { type CellAt, touchedByOne, usePutCell } from "../../../considering/usePut";
import { SettingRows } from "../../../controls/SettingRows";
import { Button } from "../../../ui/basics";

type Props = CellAt & {
  title: string;
  scopeName: string;
  reason?: string;
  /** Whether it shows now, where that is one answer. */
  shown?: boolean;
  onWhy?: () => void;
};

/** All that can be set in a cell, each with where it comes from and a way back to inherited. */
export function CellSettings(props: Props) {
  const { scope, field, surface } = props;
  const open = useQuery(ask.cell(scope, field, surface)).data;
  const known = useQuery(ask.meta()).data?.properties ?? [];
  const putCell = usePutCell();
  const [written, setWritten] = useState<readonly string[]>([]);
  const put = (set: Record<string, unknown>) => {
    setWritten([...written, ...Object.keys(set)]);
    return putCell(props, set);
  };
  if (!open) return <p className="hint">looking…</p>;
  // What was set a moment ago is in no answer yet: it goes back too.
  const own = open.properties.flatMap(({ code, own }) => (own || written.includes(code) ? [code] : []));
  const reset = () => put(Object.fromEntries(own.map((code) => [code, null])));
  const rows = known.flatMap((property) => {
    const found = open.properties.find(({ code }) => code === property.code);
    return found ? [{ ...property, ...found }] : [];
  });
  return (
    <div>
      <div className="mb-2 flex items-baseline justify-between gap-3">
        <h3 className="min-w-0">{props.title}</h3>
        <span className="flex-none truncate text-ink-3">{props.scopeName}</span>
      </div>
      <div className="scroll -mr-2 grid max-h-[46vh] grid-cols-[96px_minmax(0,1fr)_84px] items-center gap-x-2 gap-y-1.5 pr-2">
        <SettingRows rows={rows} onPut={(code, value) => void put({ [code]: value })} />
      </div>
      {props.reason && <p className="wrongly mt-2">{props.reason}</p>}
      <div className="mt-3 flex items-center justify-between gap-2 border-t border-line pt-2.5">
        {props.shown === undefined ? <span /> : <Touches {...props} set={{ shown: !props.shown }} />}
        <span className="flex flex-none gap-1.5">
          {props.onWhy && <Button onClick={props.onWhy}>Why</Button>}
          <Button right="edit" disabled={own.length === 0} onClick={reset}>
            Reset to inherited
          </Button>
        </span>
      </div>
    </div>
  );
}

/** How many pages and cards turning the cell over would change. */
function Touches({ scope, field, surface, version, set }: CellAt & { set: { shown: boolean } }) {
  const words = useDocumentWords();
  const touched = useQuery({
    queryKey: ["touches", scope, field, surface, version, set],
    queryFn: ({ signal }) => touchedByOne({ scope, field, surface, version }, set, signal),
  }).data;
  return (
    <span className="hint" data-touches>
      {touched ? `${set.shown ? "showing" : "hiding"} it changes ${words(touched.surfaces, touched.exact)}` : ""}
    </span>
  );
}

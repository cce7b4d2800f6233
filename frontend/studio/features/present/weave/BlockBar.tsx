import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import type { Schemas } from "../../../api/client";
import { ask } from "../../../api/queries";
import { useDocumentWords } from "../../../considering/Consequences";
import { type Said, type SetCell, touchedBySeveral, usePutSeveral } from "../../../considering/usePut";
import { PROPERTY_CONTROLS } from "../../../controls/properties";
import { Button, counted, Popover } from "../../../ui/basics";
import { Only } from "../../../ui/rights";
import { Select } from "../../../ui/Select";
import { useSettled } from "../../../ui/useSettled";

type Cell = { field: string; surface: string; version: number | null; own: Record<string, unknown> };

/** What can be done with a block of cells at once, with the pages and cards that each would change. */
export function BlockBar(props: { scope: string; cells: readonly Cell[]; onDone: () => void }) {
  const { scope, cells } = props;
  const put = usePutSeveral();
  const words = useDocumentWords();
  const [setting, setSetting] = useState(false);
  const mark = cells.map(({ field, surface, version }) => `${field}/${surface}/${version}`).join();
  // What a block would change is asked once it stays as it is: it grows key by key.
  const settled = useSettled(mark);
  const touched = useQuery({
    queryKey: ["touches", "several", scope, settled],
    queryFn: ({ signal }) => touchedBySeveral(scope, cells, [{ shown: true }, { shown: false }], signal),
    enabled: settled === mark,
  }).data;
  const [show, hide] = settled === mark ? (touched ?? []) : [];
  const own = cells.filter((cell) => Object.keys(cell.own).length > 0);
  function set(changes: readonly SetCell[], done: string, found?: Schemas["ConsequencesOut"]) {
    void put(scope, changes, found ? `${done}: ${words(found.surfaces, found.exact)}` : done);
    props.onDone();
  }
  const name = counted(cells.length, "cell");
  return (
    <section
      className="flex flex-none flex-wrap items-center gap-2 border-t border-weld bg-weld-tint px-[14px] py-2"
      aria-label="The chosen cells"
    >
      <b>{name} chosen</b>
      <Only>
        {" "}
        <Button onClick={() => set(edits(cells, { shown: true }), `${name} shown`, show)}>Show</Button>
        <span className="hint">{show ? `changes ${words(show.surfaces, show.exact)}` : ""}</span>
        <Button onClick={() => set(edits(cells, { shown: false }), `${name} hidden`, hide)}>Hide</Button>
        <span className="hint">{hide ? `changes ${words(hide.surfaces, hide.exact)}` : ""}</span>
        <Popover
          label="Set one thing in all of them"
          width={380}
          open={setting}
          onOpen={setSetting}
          trigger={<Button>Set…</Button>}
        >
          <SetAll onPut={(given) => set(edits(cells, given), `${name} set`)} />
        </Popover>
        <Button
          disabled={own.length === 0}
          onClick={() =>
            set(
              own.map((cell) => edit(cell, Object.fromEntries(Object.keys(cell.own).map((code) => [code, null])))),
              `${counted(own.length, "cell")} as inherited`,
            )
          }
        >
          Reset to inherited
        </Button>
      </Only>{" "}
      <span className="ml-auto">
        <Button look="quiet" onClick={props.onDone}>
          Leave them · Esc
        </Button>
      </span>
    </section>
  );
}

function edit(cell: Cell, set: Said): SetCell {
  return { field: cell.field, surface: cell.surface, version: cell.version, set };
}

function edits(cells: readonly Cell[], set: Said): SetCell[] {
  return cells.map((cell) => edit(cell, set));
}

/** One property, chosen first, and the value all cells get. */
function SetAll({ onPut }: { onPut: (set: Said) => void }) {
  const properties = useQuery(ask.meta()).data?.properties ?? [];
  const [code, setCode] = useState("");
  const property = properties.find((known) => known.code === code);
  const Control = property && PROPERTY_CONTROLS[property.control];
  return (
    <>
      <label className="block font-semibold">
        What to set
        <Select className="input mt-1 font-normal" value={code} onChange={(event) => setCode(event.target.value)}>
          <option value="">choose</option>
          {properties.map((known) => (
            <option key={known.code} value={known.code}>
              {known.name}
            </option>
          ))}
        </Select>
      </label>
      {Control && (
        <div className="mt-3">
          <Control
            property={property}
            value={undefined}
            own={undefined}
            onPut={(value) => onPut({ [code]: value ?? null })}
          />
        </div>
      )}
      <p className="hint mt-2">Where it means nothing for a field it is kept, and shows once it does.</p>
    </>
  );
}

import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import type { Schemas } from "../../../api/client";
import { ask } from "../../../api/queries";
import { useDocumentWords } from "../../../considering/Consequences";
import { type SetCell, touchedBySeveral, usePutSeveral } from "../../../considering/usePut";
import { TypeOptions } from "../../../things/TypeOptions";
import { Button, counted, Popover } from "../../../ui/basics";
import { Select } from "../../../ui/Select";

type Weave = Schemas["WeaveOut"];

/** Take over what another type, or the shop, says of the fields both have. */
export function CopyFrom({ weave }: { weave: Weave }) {
  const [open, setOpen] = useState(false);
  const [from, setFrom] = useState("");
  const other = useQuery({ ...ask.weave(from), enabled: open && from !== "" }).data;
  const put = usePutSeveral();
  const words = useDocumentWords();
  const cells = other && other.scope === from ? taken(weave, other) : [];
  const touched = useQuery({
    queryKey: ["touches", "copy", weave.scope, from, cells.length],
    enabled: cells.length > 0,
    queryFn: ({ signal }) => touchedBySeveral(weave.scope, cells, [{}], signal),
  }).data?.[0];
  async function copy() {
    if (!other) return;
    await put(weave.scope, cells, `${counted(cells.length, "cell")} as ${other.scope_name} has them`);
    setOpen(false);
    setFrom("");
  }
  return (
    <Popover
      label="Copy from another type"
      open={open}
      onOpen={setOpen}
      trigger={<Button right="edit">Copy from…</Button>}
    >
      <label className="block font-semibold">
        From
        <Select className="input mt-1 font-normal" value={from} onChange={(event) => setFrom(event.target.value)}>
          <option value="">choose a type</option>
          <TypeOptions scope />
        </Select>
      </label>
      <p className="hint mt-2 min-h-9">
        {from === weave.scope
          ? "That is this one."
          : !other
            ? "What it says itself of fields that both have is said here too."
            : cells.length === 0
              ? `${other.scope_name} says nothing of fields that both have, or all of it stands here already.`
              : `${counted(cells.length, "cell")}${touched ? `: changes ${words(touched.surfaces, touched.exact)}` : ""}`}
      </p>
      <div className="mt-2 flex justify-end">
        <Button look="primary" disabled={cells.length === 0 || from === weave.scope} onClick={() => void copy()}>
          Copy
        </Button>
      </div>
    </Popover>
  );
}

/** The cells that another scope says something of, for the rows both have, where it is not said here already. */
export function taken(weave: Weave, other: Weave): SetCell[] {
  const theirs = new Map(other.groups.flatMap((group) => group.rows).map((row) => [row.key, row]));
  return weave.groups
    .flatMap((group) => group.rows)
    .flatMap((row) =>
      row.cells.flatMap((cell) => {
        const own = theirs.get(row.key)?.cells.find(({ surface }) => surface === cell.surface)?.own ?? {};
        const differs = Object.entries(own).filter(
          ([code, value]) => JSON.stringify(cell.own[code]) !== JSON.stringify(value),
        );
        return differs.length > 0
          ? [{ field: row.key, surface: cell.surface, version: cell.version, set: Object.fromEntries(differs) }]
          : [];
      }),
    );
}

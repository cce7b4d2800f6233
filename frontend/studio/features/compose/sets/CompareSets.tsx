import { useState } from "react";
import type { Things } from "../../../api/nouns";
import { Button, Dialog } from "../../../ui/basics";
import { ForAll } from "../../../ui/rights";
import { Select } from "../../../ui/Select";

type SetRow = Things["field_set"];

/** Two sets side by side: what both have, and what only one has. */
export function CompareSets({ row, sets, nameOf }: { row: SetRow; sets: SetRow[]; nameOf: (key: string) => string }) {
  const [open, setOpen] = useState(false);
  const others = sets.filter(({ thing }) => thing.key !== row.thing.key);
  const [key, setKey] = useState("");
  const other = others.find(({ thing }) => thing.key === key) ?? others[0];
  if (!other) return null;
  const mine = placesOf(row);
  const theirs = placesOf(other);
  const all = [...new Set([...mine.keys(), ...theirs.keys()])].sort(
    (a, b) => Number(mine.has(b)) + Number(theirs.has(b)) - Number(mine.has(a)) - Number(theirs.has(a)),
  );
  return (
    <>
      <Button onClick={() => setOpen(true)}>Compare with another set</Button>
      <Dialog open={open} onClose={() => setOpen(false)} title={`${row.thing.name} and another set`}>
        <label className="flex items-center gap-2">
          Compare with
          <ForAll>
            <Select className="input !w-64" value={other.thing.key} onChange={(event) => setKey(event.target.value)}>
              {others.map(({ thing }) => (
                <option key={thing.key} value={thing.key}>
                  {thing.name}
                </option>
              ))}
            </Select>
          </ForAll>
        </label>
        <div className="scroll mt-3 max-h-80">
          <table className="rows" aria-label="Fields of both sets">
            <thead>
              <tr>
                <th>Field</th>
                <th>{row.thing.name}</th>
                <th>{other.thing.name}</th>
              </tr>
            </thead>
            <tbody>
              {all.map((field) => (
                <tr key={field} className="!cursor-default">
                  <td>{nameOf(field)}</td>
                  <td>{mine.get(field) ?? <span className="text-madder">not in it</span>}</td>
                  <td>{theirs.get(field) ?? <span className="text-madder">not in it</span>}</td>
                </tr>
              ))}
            </tbody>
          </table>
        </div>
        <p className="hint mt-2">A field that is in both holds one value.</p>
      </Dialog>
    </>
  );
}

/** Field → the section it stands in. */
function placesOf(row: SetRow): Map<string, string> {
  return new Map(
    row.thing.sections.flatMap((section) => section.fields.map((field) => [field, section.name] as const)),
  );
}

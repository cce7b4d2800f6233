import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { Link } from "react-router";
import type { Schemas } from "../../../api/client";
import { NOUNS, type NounCode, placeOf } from "../../../api/nouns";
import { ask } from "../../../api/queries";
import { useRemoveAll } from "../../../considering/useRemoveAll";
import { Button, counted, Empty } from "../../../ui/basics";
import { dayAndTime } from "../../../ui/locale";
import { Opening } from "../../../ui/Opening";
import { PaneHead } from "../../../ui/Split";
import { Tick, Ticked } from "../../../ui/Ticked";
import { useTicks } from "../../../ui/useTicks";
import { MergeFieldsDialog } from "./MergeFieldsDialog";

type Finding = Schemas["FindingOut"];

const SORTS: readonly (readonly [string, string, string])[] = [
  ["alike", "Look alike", "Defined twice, perhaps: what one holds can move to the other."],
  ["unused", "Unused", "Nothing takes them. They can be put to use where they are open, or ticked and removed."],
  [
    "unfilled",
    "Never filled",
    "Products have them, and nobody has filled one yet. They can be filled, or ticked and removed.",
  ],
];

/** What is unused, never filled, or defined twice, each with what can be done about it, one by one or several at once. */
export default function HousekeepingView() {
  const findings = useQuery(ask.housekeeping()).data?.findings;
  const [merging, setMerging] = useState<Finding | null>(null);
  const rows = SORTS.flatMap(([sort]) => (findings ?? []).filter((finding) => finding.sort === sort));
  const removable = rows.filter(({ other }) => other === null);
  const { ticked, tick, clear } = useTicks(removable.map(idOf));
  const removeAll = useRemoveAll();
  if (!findings) return <Opening words="Looking through what is defined…" />;
  const chosen = removable.filter((finding) => ticked.has(idOf(finding)));
  return (
    <div className="flex min-h-0 flex-1 flex-col bg-white">
      <PaneHead title="Housekeeping" note={`${counted(findings.length, "thing")} to tidy`} />
      <Ticked label="Things" count={chosen.length} words={counted(chosen.length, "thing")} onClear={clear}>
        <Button look="danger" onClick={() => removeAll(chosen, "thing", clear)}>
          Remove {chosen.length === 1 ? "it" : "them"}
        </Button>
      </Ticked>
      <div className="scroll min-h-0 flex-1 pb-6">
        {SORTS.map(([sort, title, note]) => {
          const found = rows.filter((finding) => finding.sort === sort);
          return found.length === 0 ? null : (
            <section key={sort} aria-label={title}>
              <h3 className="band">
                {title} <span>{found.length}</span>
              </h3>
              <p className="hint px-[14px] pt-2">{note}</p>
              <table className="w-full">
                <thead className="sr">
                  <tr>
                    <th>What</th>
                    <th>Sort</th>
                    <th>Why</th>
                    <th>Last changed</th>
                    <th>What to do</th>
                  </tr>
                </thead>
                <tbody>
                  {found.map((finding) => (
                    <Row
                      key={`${idOf(finding)} ${finding.other}`}
                      finding={finding}
                      ticked={ticked.has(idOf(finding))}
                      onTick={(range) => tick(idOf(finding), range)}
                      onMerge={() => setMerging(finding)}
                    />
                  ))}
                </tbody>
              </table>
            </section>
          );
        })}
        {findings.length === 0 && (
          <Empty title="All is tidy">Nothing is unused, never filled, or looks like it was defined twice.</Empty>
        )}
      </div>
      {merging && (
        <MergeFieldsDialog
          pair={[merging, { key: merging.other ?? "", name: merging.other_name }]}
          onClose={() => setMerging(null)}
        />
      )}
    </div>
  );
}

const idOf = ({ noun, key }: Finding) => `${noun} ${key}`;

type RowProps = { finding: Finding; ticked: boolean; onTick: (range: boolean) => void; onMerge: () => void };

function Row({ finding, ticked, onTick, onMerge }: RowProps) {
  const what = NOUNS[finding.noun as NounCode]?.what ?? finding.noun;
  return (
    <tr className="border-b border-line align-baseline">
      <td className="w-[26%] py-1.5 pl-[14px]">
        {finding.other === null && (
          <Tick className="relative top-[3px] mr-2" name={finding.name} ticked={ticked} onTick={onTick} />
        )}
        <Link className="link font-semibold" to={placeOf(finding.noun, finding.key)}>
          {finding.name}
        </Link>
      </td>
      <td className="w-[12%] text-ink-3">{what}</td>
      <td className="pr-4">
        {finding.words}
        {finding.other && (
          <>
            {" · "}
            <Link className="link" to={placeOf(finding.noun, finding.other)}>
              {finding.other_name}
            </Link>
          </>
        )}
      </td>
      <td className="w-[16%] text-ink-3">{finding.changed ? dayAndTime(finding.changed) : ""}</td>
      <td className="w-[110px] pr-[14px] text-right">
        {finding.other && finding.noun === MERGED && (
          <Button right="edit" onClick={onMerge}>
            Merge…
          </Button>
        )}
      </td>
    </tr>
  );
}

/** The noun whose things are merged here; values of lists are merged in their list. */
const MERGED: NounCode = "field";

import { useQuery } from "@tanstack/react-query";
import { useMemo, useState } from "react";
import { Link } from "react-router";
import type { Things } from "../../../api/nouns";
import { ask } from "../../../api/queries";
import { ConditionBuilder } from "../../../conditions/ConditionBuilder";
import { fromTree, type Group, isGroup, isWhole, type Json, type Node, toTree } from "../../../conditions/tree";
import { type Found, useMatches } from "../../../conditions/useMatches";
import { Button, counted } from "../../../ui/basics";
import { number } from "../../../ui/locale";
import { useGathering } from "./useGathering";

/** The condition of a collection: made anew beside what stands, with who would be in, and put to use when it is right. */
export function WhoIsIn({ row }: { row: Things["collection"] }) {
  const kept = row.thing.condition as Json | null;
  const mark = JSON.stringify(kept);
  const [draft, setDraft] = useState<{ of: string; group: Group } | null>(null);
  const fields = useQuery(ask.askedFields()).data?.fields ?? [];
  const { put } = useGathering("collection", row);
  const [refused, setRefused] = useState<string | null>(null);
  const worded = JSON.stringify(row.tests);
  const standing = useMemo(() => fromTree(JSON.parse(mark), JSON.parse(worded)), [mark, worded]);
  const group = draft?.group ?? standing;
  const look = useMatches(group, fields, row.thing.key, draft !== null);
  const { tree, count } = toTree(group, fields);
  const unwhole = testsIn(group).filter((test) => !isWhole(test, fields)).length;
  const stale = draft !== null && draft.of !== mark;
  const next = count > 0 ? tree : null;
  const ready = draft !== null && unwhole === 0 && (count === 0 || look.whole);
  async function use() {
    if (!ready) return;
    const done = await put(
      { condition: next as never },
      {
        done: `Who is in ${row.thing.name} changed`,
        onRefused: ({ problem }) => setRefused(`${problem.message}. ${problem.help}`),
      },
    );
    if (done) {
      setDraft(null);
      setRefused(null);
    }
  }
  return (
    <section aria-label="Who is in it">
      <p className="band">
        Who is in it <span>· what holds for a product, by itself, now and later</span>
      </p>
      <div className="m-[14px] rounded-md border border-line p-3">
        {kept === null && draft === null && (
          <p className="hint mb-1 pl-9">Nobody comes in by itself yet: only who is put in by hand, below.</p>
        )}
        {kept !== null && Object.keys(kept).length === 0 && draft === null && (
          <p className="mb-1 pl-9">Every product is in it.</p>
        )}
        <ConditionBuilder
          value={group}
          wrong={look.wrong}
          onChange={(changed) => setDraft({ of: draft?.of ?? mark, group: changed })}
          onUse={() => void use()}
        />
        {draft !== null && (
          <div className="mt-3 border-t border-line pt-2">
            <p className="flex flex-wrap items-center gap-2" aria-live="polite">
              <Words found={look.found} count={count} unwhole={unwhole} wrong={look.wrong.get("")} />
              <span className="ml-auto flex gap-2">
                <Button
                  onClick={() => {
                    setDraft(null);
                    setRefused(null);
                  }}
                >
                  Leave it
                </Button>
                <Button look="primary" disabled={!ready} title="Ctrl Enter" onClick={() => void use()}>
                  Use it
                </Button>
              </span>
            </p>
            {stale && (
              <p className="wrongly">
                Someone changed the condition meanwhile. Using yours puts it in the other's place; leaving it shows
                theirs.
              </p>
            )}
            {refused && (
              <p className="wrongly" role="alert">
                {refused}
              </p>
            )}
            <First found={look.found} />
          </div>
        )}
      </div>
    </section>
  );
}

function testsIn(group: Group) {
  const found: Exclude<Node, Group>[] = [];
  for (const part of group.parts) {
    if (isGroup(part)) found.push(...testsIn(part));
    else found.push(part);
  }
  return found;
}

function Words(props: { found: Found | null; count: number; unwhole: number; wrong?: string }) {
  const { found } = props;
  if (props.wrong) return <span className="wrongly">{props.wrong}</span>;
  if (props.unwhole > 0)
    return <span className="text-ink-2">{counted(props.unwhole, "test")} still to be filled in.</span>;
  if (props.count === 0) return <span className="text-ink-2">Without a test only those put in by hand are in it.</span>;
  if (!found) return <span className="text-ink-2">looking…</span>;
  const moves = [
    found.fresh && counted(found.fresh, "comes in", "come in"),
    found.leaving && counted(found.leaving, "goes out", "go out"),
  ];
  return (
    <span>
      <b>
        {number(found.count)} {found.count === 1 ? "matches" : "match"}
      </b>
      {found.done ? "" : " so far…"}
      {moves.some(Boolean) && <>, {moves.filter(Boolean).join(", ")}</>}
    </span>
  );
}

function First({ found }: { found: Found | null }) {
  if (!found || found.first.length === 0) return null;
  return (
    <ul className="mt-2 grid grid-cols-2 gap-x-4" aria-label="The first that match">
      {found.first.map((product) => (
        <li key={product.id} className={`truncate px-1 py-0.5 ${product.how === "new" ? "bg-moss-tint" : ""}`}>
          <Link className="hover:underline" to={`/fill/products/${product.id}`} title={product.reason}>
            {product.title}
          </Link>
          {product.how === "new" && <span className="hint"> · new with this</span>}
        </li>
      ))}
    </ul>
  );
}

import { useQuery } from "@tanstack/react-query";
import { useEffect, useState } from "react";
import { Link } from "react-router";
import type { Schemas } from "../../api/client";
import { placeOf } from "../../api/nouns";
import { ask, isOpen } from "../../api/queries";
import { useDocumentWords } from "../../considering/Consequences";
import { useAddress } from "../../ui/address";
import { Button, counted, Empty } from "../../ui/basics";
import { moveFocus } from "../../ui/keys";
import { number } from "../../ui/locale";
import { Opening } from "../../ui/Opening";
import { useMay } from "../../ui/rights";
import { PaneHead, Split } from "../../ui/Split";
import { CheckLine } from "./ChecksView";
import { Compare } from "./Compare";
import { ReleaseDialog, ReleaseProgress } from "./ReleaseDialog";

type Pending = Schemas["PendingOne"];
const id = (thing: Pending) => `${thing.noun}/${thing.key}`;

export default function ChangesView() {
  const pending = useQuery(ask.pending()).data;
  const may = useMay("release");
  const counts = useQuery(ask.counts()).data;
  const job = counts?.job ?? null;
  const words = useDocumentWords();
  const checks = useQuery(ask.checks()).data?.checks ?? [];
  const [at, setAt] = useAddress("thing");
  const [asked, setAsked] = useAddress("release");
  const [releasing, setReleasing] = useState(false);
  useEffect(() => {
    if (!asked) return;
    setReleasing(true);
    setAsked(null);
  }, [asked, setAsked]);
  // What was asked before a release is not told beside what is counted after it.
  const stale = pending !== undefined && pending.count > 0 && counts?.unreleased === 0 && !isOpen(job);
  if (!pending || stale) return <Opening words="Working out what would change…" />;
  const here = pending.things.find((thing) => id(thing) === at) ?? pending.things[0];
  const groups = [...new Set(pending.things.map((thing) => thing.group))];
  const list = (
    <>
      <PaneHead
        title={counted(pending.count, "change")}
        note={pending.count > 0 ? words(pending.surfaces, pending.exact) : undefined}
      >
        <Button
          right="look"
          look="primary"
          disabled={pending.count === 0 || !may || isOpen(job)}
          title={may ? undefined : "You may not release"}
          onClick={() => setReleasing(true)}
        >
          Release now
        </Button>
      </PaneHead>
      {job && isOpen(job) && <ReleaseProgress job={job} may={may} />}
      <fieldset className="scroll m-0 min-h-0 min-w-0 flex-1 border-0 p-0" aria-label="Changes" onKeyDown={moveFocus}>
        {pending.count === 0 && (
          <Empty title="All is live">What you change from now on is listed here until it is released.</Empty>
        )}
        {groups.map((group) => (
          <section key={group} aria-label={group}>
            <h3 className="band !px-4">{group}</h3>
            {pending.things
              .filter((thing) => thing.group === group)
              .map((thing) => (
                <button
                  key={id(thing)}
                  type="button"
                  data-item
                  className={`block w-full border-b border-line px-4 py-2 text-left ${thing === here ? "bg-weld-tint" : "hover:bg-cloth"}`}
                  aria-pressed={thing === here}
                  onClick={() => setAt(id(thing))}
                >
                  <span className="flex flex-wrap gap-x-2">
                    <b className="max-w-full truncate">{thing.name}</b>
                    <span className="ml-auto text-right text-ink-3">{words(thing.surfaces, thing.exact)}</span>
                  </span>
                  <span className="block text-ink-2">{thing.lines.slice(0, 3).join(" · ")}</span>
                  {thing.held_back && <span className="block text-madder">Held back: {thing.held_back}</span>}
                </button>
              ))}
          </section>
        ))}
        {pending.count > pending.things.length && (
          <p className="hint p-4">and {number(pending.count - pending.things.length)} more</p>
        )}
        <section className="px-4 py-3" aria-label="Before you release">
          <h3 className="mb-1">Before you release</h3>
          {checks.slice(0, 8).map((check) => (
            <CheckLine key={check.text} check={check} />
          ))}
          {checks.length > 8 && (
            <Link className="link" to="/release/checks">
              all {checks.length} checks
            </Link>
          )}
        </section>
      </fieldset>
      {releasing && (
        <ReleaseDialog
          pending={pending}
          wrong={checks.filter((check) => check.level === "wrong").length}
          onClose={() => setReleasing(false)}
        />
      )}
    </>
  );
  return (
    <Split
      id="release"
      parts={[
        { id: "changes", min: 360, start: "37", children: list },
        {
          id: "compare",
          min: 400,
          start: "63",
          folds: "Before and after",
          className: "bg-[#e7eaf0]",
          children: here ? (
            <Compare key={id(here)} thing={here} open={placeOf(here.noun, here.key)} />
          ) : (
            <Empty title="Nothing to compare">Live and draft are the same.</Empty>
          ),
        },
      ]}
    />
  );
}

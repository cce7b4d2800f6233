import { useQuery } from "@tanstack/react-query";
import { type ReactNode, useLayoutEffect, useRef } from "react";
import type { Things } from "../../../api/nouns";
import { ask } from "../../../api/queries";
import { useDocumentWords } from "../../../considering/Consequences";
import { HistoryPane } from "../../../history/HistoryPane";
import { Saved } from "../../../state/saving";
import { useThing } from "../../../state/things";
import { useAddress, usePutAddress } from "../../../ui/address";
import { Button, counted } from "../../../ui/basics";
import { boxIn, focusOnceThere, holdKeys } from "../../../ui/focus";
import { useKeys } from "../../../ui/keys";
import { useMay } from "../../../ui/rights";
import { PaneHead, PaneTabs, Split } from "../../../ui/Split";
import { TextBox } from "../../../ui/TextBox";
import { AddBlock } from "./AddBlock";
import { BlockPanel, type Lift } from "./BlockPanel";
import { LayoutProof } from "./LayoutProof";
import { LayoutUse } from "./LayoutUse";
import { Outline } from "./Outline";
import { type Edit, linesOf, newIn, placeFor, stepOf, type View } from "./tree";
import { useLayoutEdits } from "./useLayoutEdits";

const CONTROLS = "textarea, input, select, button";

type Tab = "blocks" | "use" | "history";
const TABS: [Tab, string][] = [
  ["blocks", "Blocks"],
  ["use", "Use"],
  ["history", "History"],
];

/** A layout on a page: blocks are picked, moved and added there or in the outline, by mouse or by keys. */
export function LayoutEditor(props: {
  view: View;
  side: ReactNode;
  layouts: readonly Things["layout"][];
  /** What is done once an arrangement has begun, with its key. */
  onBegun: (key: string) => void;
}) {
  const row = props.layouts.find(({ thing }) => thing.key === props.view.key);
  const edits = useLayoutEdits(props.view, props.onBegun);
  const { view } = edits;
  const [picked] = useAddress("block");
  const [part] = useAddress("part");
  const [tab, setTab] = useAddress("pane");
  const put = usePutAddress();
  const can = useMay("edit") && (!view.built_in || Boolean(view.own));
  const meta = useQuery(ask.meta()).data;
  const kinds = meta?.blocks ?? [];
  const lines = linesOf(view);
  const line = lines.find(({ id }) => id === picked);
  const panel = useRef<HTMLDivElement>(null);
  // What is picked when an answer comes, which may be another than when it was asked for.
  const latest = useRef(picked);
  latest.current = picked;
  // What stands on the screen, not what is being worked out.
  const drawn = useRef<string | undefined>(undefined);
  useLayoutEffect(() => {
    drawn.current = line?.id;
  }, [line?.id]);

  const pick = (id: string | null) => put({ block: id, part: null, pane: null });
  async function edit(...asked: Edit[]) {
    const [before, from, focused] = [view, latest.current, document.activeElement];
    const makes = asked.some(({ op }) => op === "add" || op === "wrap");
    // What is typed before a block is there is meant for it.
    const release = makes ? holdKeys() : () => undefined;
    const now = await edits.edit(...asked);
    const fresh = now && makes ? newIn(now, before)[0] : undefined;
    if (fresh && latest.current === from) {
      pick(fresh);
      const free = (at: Element | null) =>
        at === null || at === document.body || at === focused || at.matches("[data-adds]");
      focusOnceThere(() => {
        if (!free(document.activeElement)) return false;
        return drawn.current === fresh ? (boxIn(panel.current) ?? lineOf(fresh)) : null;
      });
    }
    release();
    return now;
  }
  async function lift(id: string, what: Lift) {
    const [before, from] = [view, latest.current];
    const now = await edits.lift(id, what);
    if (now && latest.current === from) pick(newIn(now, before)[0] ?? null);
  }
  const step = (by: -1 | 1) => {
    const at = lines.findIndex(({ id }) => id === picked);
    const to = lines[at < 0 ? 0 : Math.max(0, Math.min(lines.length - 1, at + by))];
    if (to) pick(to.id);
  };
  const move = (id: string, by: -1 | 1) => {
    const found = can && stepOf(view, id, by);
    if (found) void edit(found);
  };
  const remove = (id: string) => {
    if (!can) return;
    const at = lines.findIndex((other) => other.id === id);
    const next = lines[at - 1]?.id ?? lines[at + 1]?.id ?? null;
    void edit({ op: "remove", id }).then((now) => now && latest.current === id && pick(next));
  };
  /** What the page in the frame was asked for by a press, a drag or a key. */
  function hear(asked: Record<string, unknown>) {
    if (typeof asked.part === "string") pick(asked.part);
    if (asked.step === 1 || asked.step === -1) step(asked.step);
    if ((asked.by === 1 || asked.by === -1) && picked) move(picked, asked.by);
    if (asked.remove && picked) remove(picked);
    if (asked.settings) panel.current?.querySelector<HTMLElement>(CONTROLS)?.focus();
    if (typeof asked.drop === "string" && can)
      void edit({ op: "move", id: asked.drop, region: String(asked.region), after: (asked.after as string) ?? null });
  }
  useKeys({ escape: () => pick(null) });
  const words = useDocumentWords();
  const shown = words({ [view.surface]: view.shown });
  return (
    <Split
      id="layouts"
      parts={[
        { id: "all", min: 180, start: "16", className: "pane", children: props.side },
        {
          id: "sheet",
          min: 400,
          start: "53",
          children: (
            <>
              <PaneHead
                title={<Name row={row} view={view} can={can} />}
                note={view.own ? `begins with the first change; would be in force on ${shown}` : `in force on ${shown}`}
              >
                <Saved />
              </PaneHead>
              <Careful edits={edits} />
              <LayoutProof
                view={view}
                picked={picked}
                tried={edits.tried?.edits ?? null}
                can={can}
                onHear={hear}
                action={
                  can && (
                    <AddBlock
                      kinds={kinds.filter(({ surfaces }) => surfaces.includes(view.surface))}
                      onAdd={(block) => void edit({ op: "add", block, ...placeFor(view, picked, part) })}
                    />
                  )
                }
              />
            </>
          ),
        },
        {
          id: "pane",
          min: 300,
          start: "31",
          className: "pane",
          folds: "Blocks",
          children: (
            <>
              <PaneTabs<Tab>
                label="Of this layout"
                value={(tab as Tab) ?? "blocks"}
                tabs={TABS.filter(([of]) => of === "blocks" || !view.own).map(([of, words]) => [
                  of,
                  of === "use" && view.lost.length ? `${words} (${view.lost.length} lost)` : words,
                ])}
                onChoose={(next) => setTab(next === "blocks" ? null : next)}
              />
              {tab === "history" ? (
                <HistoryPane noun="layout" thing={view.key} />
              ) : tab === "use" ? (
                <LayoutUse view={view} can={can} layouts={props.layouts} row={row} onEdit={edit} />
              ) : (
                <div className="flex min-h-0 flex-1 flex-col">
                  {view.built_in && !view.own && <BuiltIn view={view} />}
                  <Outline
                    view={view}
                    kinds={kinds}
                    picked={picked}
                    part={line ? null : part}
                    can={can}
                    onPart={(region) => put({ block: null, part: region, pane: null })}
                    onPick={pick}
                    onMove={move}
                    onRemove={remove}
                    onHide={(id, hidden) => void edit({ op: "set", id, props: { hidden: hidden || null } })}
                  />
                  <div key={picked} ref={panel} className="scroll min-h-0 flex-1 border-t border-line px-[14px] pb-6">
                    {line ? (
                      <BlockPanel
                        key={line.id}
                        view={view}
                        line={line}
                        surface={meta?.surfaces.find(({ code }) => code === view.surface)}
                        kinds={kinds}
                        can={can}
                        onEdit={edit}
                        onMove={move}
                        onRemove={remove}
                        onLift={lift}
                      />
                    ) : (
                      <p className="hint py-4">
                        Press a block on the page or above to change it. Arrows go from one to the next, Alt with arrows
                        moves it, Delete takes it away.
                      </p>
                    )}
                  </div>
                </div>
              )}
            </>
          ),
        },
      ]}
    />
  );
}

/** The line of a block in the outline. */
function lineOf(id: string): HTMLElement | null {
  return document.querySelector<HTMLElement>(`[role=option][data-mark="${CSS.escape(id)}"]`);
}

function Name({ row, view, can }: { row?: Things["layout"]; view: View; can: boolean }) {
  if (!row || !can) return view.name;
  return <OwnName row={row} />;
}

function OwnName({ row }: { row: Things["layout"] }) {
  const { put } = useThing("layout", row);
  return (
    <TextBox
      aria-label="Name of the layout"
      className="!w-44 font-bold"
      value={row.thing.name}
      onCommit={(name) => void put({ name })}
    />
  );
}

function BuiltIn({ view }: { view: View }) {
  const put = usePutAddress();
  return (
    <p className="flex-none border-b border-line bg-weld-tint px-[14px] py-2">
      {view.name} comes with the shop and stays as it is. Make one of your own that builds on it, with{" "}
      <button type="button" className="link" onClick={() => put({ new: "1" })}>
        New layout
      </button>
      , and choose it for the shop, a type or a collection.
    </p>
  );
}

/** What follows from edits that are only tried yet, and the layouts that build on this one. */
function Careful({ edits }: { edits: ReturnType<typeof useLayoutEdits> }) {
  const words = useDocumentWords();
  const { tried, view } = edits;
  if (!edits.careful) return null;
  if (!tried)
    return (
      <p className="flex-none bg-cloth px-[14px] py-1.5 text-ink-2">
        {counted(view.builders.length, "layout builds", "layouts build")} on this one: what you do is tried on the page
        first.
      </p>
    );
  const lost = tried.outcome.builders.filter((builder) => builder.lost.length > 0);
  return (
    <section className="flex-none border-y border-weld bg-weld-tint px-[14px] py-2" aria-label="What follows">
      <p className="flex flex-wrap items-center gap-2">
        <b>{counted(tried.edits.length, "change")} tried</b>
        <span>
          {words(tried.outcome.consequences.surfaces, tried.outcome.consequences.exact)} will differ,{" "}
          {counted(tried.outcome.builders.length, "layout")} follow
        </span>
        <span className="ml-auto flex gap-2">
          <Button onClick={edits.leave}>Leave it</Button>
          <Button look="primary" onClick={() => void edits.make()}>
            Make it so
          </Button>
        </span>
      </p>
      {lost.map((builder) => (
        <p key={builder.key} className="wrongly">
          {builder.name} loses {builder.lost.map((step) => step.words).join("; ")}
        </p>
      ))}
    </section>
  );
}

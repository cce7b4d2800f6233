import { useQuery } from "@tanstack/react-query";
import { type ReactNode, useRef } from "react";
import type { Things } from "../../../api/nouns";
import { ask } from "../../../api/queries";
import { useDocumentWords } from "../../../considering/Consequences";
import { HistoryPane } from "../../../history/HistoryPane";
import { Saved } from "../../../state/saving";
import { useThing } from "../../../state/things";
import { useAddress, usePutAddress } from "../../../ui/address";
import { Button, counted } from "../../../ui/basics";
import { useKeys } from "../../../ui/keys";
import { useMay } from "../../../ui/rights";
import { PaneHead, PaneTabs, Split } from "../../../ui/Split";
import { TextBox } from "../../../ui/TextBox";
import { AddBlock } from "./AddBlock";
import { BlockPanel } from "./BlockPanel";
import { BlocksChosen } from "./BlocksChosen";
import { LayoutProof } from "./LayoutProof";
import { LayoutUse } from "./LayoutUse";
import { Outline } from "./Outline";
import { placeFor, type View } from "./tree";
import { useBlockActs } from "./useBlockActs";
import { useLayoutEdits } from "./useLayoutEdits";

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
  const [part] = useAddress("part");
  const [tab, setTab] = useAddress("pane");
  const put = usePutAddress();
  const can = useMay("edit") && (!view.built_in || Boolean(view.own));
  const meta = useQuery(ask.meta()).data;
  const kinds = meta?.blocks ?? [];
  const panel = useRef<HTMLDivElement>(null);
  const acts = useBlockActs(edits, panel, can);
  const { line, picked, several, pick, edit } = acts;
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
                onHear={acts.hear}
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
          asked: picked !== null,
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
                    chosen={acts.chosen}
                    part={line ? null : part}
                    can={can}
                    onPart={(region) => put({ block: null, part: region, pane: null })}
                    onPick={pick}
                    onMark={acts.mark}
                    onMove={acts.move}
                    onRemove={acts.remove}
                    onHide={acts.hide}
                  />
                  <div key={picked} ref={panel} className="scroll min-h-0 flex-1 border-t border-line px-[14px] pb-6">
                    {several.length > 1 ? (
                      <BlocksChosen
                        view={view}
                        kinds={kinds}
                        several={several}
                        can={can}
                        onEdit={edit}
                        onMove={acts.move}
                        onCopy={acts.copy}
                        onHide={acts.hide}
                        onRemove={acts.remove}
                        onClear={() => pick(picked)}
                      />
                    ) : line ? (
                      <BlockPanel
                        key={line.id}
                        view={view}
                        line={line}
                        surface={meta?.surfaces.find(({ code }) => code === view.surface)}
                        kinds={kinds}
                        can={can}
                        onEdit={edit}
                        onMove={acts.move}
                        onRemove={acts.remove}
                        onCopy={acts.copy}
                        onLift={acts.lift}
                      />
                    ) : (
                      <p className="hint py-4">
                        Press a block on the page or above to change it. Arrows go from one to the next, with Shift they
                        choose several, Alt with arrows moves them, Delete takes them away.
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

function Name({ row, view, can }: { row?: Things["layout"]; view: View; can: boolean }) {
  if (!row || !can) return view.name;
  return <OwnName row={row} />;
}

function OwnName({ row }: { row: Things["layout"] }) {
  const { put } = useThing("layout", row);
  return (
    <TextBox
      aria-label="Name of the layout"
      className="!w-full min-w-44 font-bold"
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

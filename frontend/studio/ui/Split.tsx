import { type ReactNode, useEffect, useState } from "react";
import { Group, Panel, Separator, useDefaultLayout } from "react-resizable-panels";
import { useAddress, usePutAddress } from "./address";
import { useKeys } from "./keys";

export type Part = {
  id: string;
  min: number;
  start: string;
  children: ReactNode;
  className?: string;
  /** What the pane is called where it folds away for want of room. */
  folds?: string;
  /** Whether one came by an address that names what stands in the pane: it is out then, where it folds. */
  asked?: boolean;
};

/** Panes side by side. Where there is little room, those that fold lie at the right edge and come out over the sheet. */
export function Split({ id, parts }: { id: string; parts: Part[] }) {
  const narrow = useNarrow();
  const folding = narrow ? parts.filter((part) => part.folds !== undefined) : [];
  return (
    <div className="relative flex min-h-0 flex-1">
      <Beside id={id} parts={parts.filter((part) => !folding.includes(part))} />
      {folding.map((part) => (
        <Folded key={part.id} part={part} />
      ))}
    </div>
  );
}

const NARROW = "(max-width: 1099px)";

function useNarrow(): boolean {
  const [narrow, setNarrow] = useState(() => window.matchMedia(NARROW).matches);
  useEffect(() => {
    const query = window.matchMedia(NARROW);
    const hear = () => setNarrow(query.matches);
    query.addEventListener("change", hear);
    return () => query.removeEventListener("change", hear);
  }, []);
  return narrow;
}

/** A pane at the edge: a strip to press, and the pane over the sheet while it is out or a reason is asked for. */
function Folded({ part }: { part: Part }) {
  const [unfold] = useAddress("unfold");
  const [why] = useAddress("why");
  const put = usePutAddress();
  const out = unfold === "1" || why !== null;
  // biome-ignore lint/correctness/useExhaustiveDependencies: only what one came for brings it out
  useEffect(() => {
    if (part.asked) put({ unfold: "1" });
  }, []);
  const close = () => put({ unfold: null, why: null });
  const bring = (pane: string) => put({ unfold: "1", pane });
  useKeys(out ? { escape: close } : { p: () => bring("proof"), h: () => bring("history") });
  return (
    <>
      {out && (
        <section
          aria-label={`${part.folds}, unfolded`}
          className={`absolute inset-y-0 right-[34px] z-20 flex w-[min(440px,64%)] flex-col border-l border-edge bg-sheet shadow-[-10px_0_24px_rgb(28_34_48/0.16)] ${part.className ?? ""}`}
        >
          {part.children}
        </section>
      )}
      <button
        type="button"
        aria-expanded={out}
        className={`w-[34px] flex-none border-l border-line font-semibold [writing-mode:vertical-rl] ${out ? "bg-weld-tint" : "bg-cloth text-ink-2"}`}
        onClick={() => (out ? close() : put({ unfold: "1" }))}
      >
        {part.folds} {out ? "›" : "‹"}
      </button>
    </>
  );
}

/** Parts that can be resized by drag or arrows, and remember their widths. */
function Beside({ id, parts }: { id: string; parts: Part[] }) {
  const shape = `${id}-${parts.map((part) => part.id).join("-")}`;
  const { defaultLayout, onLayoutChanged } = useDefaultLayout({ id: shape, panelIds: parts.map((part) => part.id) });
  return (
    <Group
      key={shape}
      id={shape}
      orientation="horizontal"
      defaultLayout={defaultLayout}
      onLayoutChanged={onLayoutChanged}
      className="min-h-0 min-w-0 flex-1"
    >
      {parts.flatMap((part, index) => [
        ...(index > 0
          ? [<Separator key={`${part.id}-edge`} className="handle" aria-label={`Width of ${part.id}`} />]
          : []),
        <Panel
          key={part.id}
          id={part.id}
          minSize={part.min}
          defaultSize={part.start}
          className={`flex min-h-0 flex-col ${part.className ?? ""}`}
        >
          {part.children}
        </Panel>,
      ])}
    </Group>
  );
}

export function PaneHead({ title, note, children }: { title: ReactNode; note?: ReactNode; children?: ReactNode }) {
  return (
    <header className="flex min-h-[46px] flex-none items-center gap-2 px-[14px]">
      <h2
        className={`text-[15px] font-bold ${typeof title !== "string" ? "min-w-0 flex-1" : title.length < 24 ? "flex-none" : "truncate"}`}
      >
        {title}
      </h2>
      {note && <span className="min-w-0 shrink-[6] truncate text-ink-3">{note}</span>}
      <span className="ml-auto flex flex-none items-center gap-2">{children}</span>
    </header>
  );
}

export function PaneTabs<T extends string>(props: {
  value: T;
  tabs: readonly (readonly [T, string])[];
  onChoose: (value: T) => void;
  label: string;
}) {
  return (
    <div role="tablist" aria-label={props.label} className="flex flex-none gap-4 border-b border-line px-[14px]">
      {props.tabs.map(([value, text]) => (
        <button
          key={value}
          type="button"
          role="tab"
          aria-selected={value === props.value}
          className={`-mb-px min-h-[34px] border-b-2 ${value === props.value ? "border-woad font-semibold text-woad" : "border-transparent text-ink-2"}`}
          onClick={() => props.onChoose(value)}
        >
          {text}
        </button>
      ))}
    </div>
  );
}

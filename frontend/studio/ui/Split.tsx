import type { ReactNode } from "react";
import { Group, Panel, Separator, useDefaultLayout } from "react-resizable-panels";

export type Part = { id: string; min: number; start: string; children: ReactNode; className?: string };

/** Panes side by side that can be resized by drag or arrows, and remember their widths. */
export function Split({ id, parts }: { id: string; parts: Part[] }) {
  const shape = `${id}-${parts.map((part) => part.id).join("-")}`;
  const { defaultLayout, onLayoutChanged } = useDefaultLayout({ id: shape, panelIds: parts.map((part) => part.id) });
  return (
    <Group
      key={shape}
      id={shape}
      orientation="horizontal"
      defaultLayout={defaultLayout}
      onLayoutChanged={onLayoutChanged}
      className="min-h-0 flex-1"
    >
      {parts.flatMap((part, place) => [
        ...(place > 0
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
      <h2 className="truncate text-[15px] font-bold">{title}</h2>
      {note && <span className="min-w-0 truncate text-ink-3">{note}</span>}
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

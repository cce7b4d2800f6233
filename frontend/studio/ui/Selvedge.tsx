import { type RefObject, useEffect, useState } from "react";

/** A row that needs a look; `place` is how far down it is, from 0 to 1, where the sheet draws only some of its rows. */
export type Mark = { id: string; wrong: boolean; text: string; place?: number };
type Props = {
  marks: Mark[];
  /** The sheet, whose rows carry `data-mark`: they are looked for there. */
  sheet?: RefObject<HTMLElement | null>;
  /** How one goes to a row, where it may not be drawn. */
  onGo?: (id: string) => void;
};

/** The strip along a long sheet: a tick where a row needs a look; pressing it goes there. */
export function Selvedge({ sheet, marks, onGo }: Props) {
  const [places, setPlaces] = useState<Record<string, number>>({});
  const ids = marks.map((mark) => mark.id).join(" ");
  useEffect(() => {
    const box = sheet?.current;
    if (!box || ids === "") return;
    const measure = () => {
      const next: Record<string, number> = {};
      for (const row of box.querySelectorAll<HTMLElement>("[data-mark]")) {
        const top = row.getBoundingClientRect().top - box.getBoundingClientRect().top + box.scrollTop;
        next[row.dataset.mark as string] = Math.min(0.98, top / Math.max(box.scrollHeight, box.clientHeight));
      }
      setPlaces((old) => (JSON.stringify(old) === JSON.stringify(next) ? old : next));
    };
    measure();
    const observer = new ResizeObserver(measure);
    observer.observe(box);
    if (box.firstElementChild) observer.observe(box.firstElementChild);
    return () => observer.disconnect();
  }, [sheet, ids]);
  return (
    <fieldset className="selvedge" aria-label="Rows that need a look">
      {marks.map((mark, index) => {
        const place = mark.place ?? places[mark.id];
        return place === undefined ? null : (
          <button
            // biome-ignore lint/suspicious/noArrayIndexKey: a row may need a look for two things
            key={`${mark.id} ${index}`}
            type="button"
            className={mark.wrong ? "wrong" : ""}
            style={{ top: `${place * 100}%` }}
            title={mark.text}
            aria-label={mark.text}
            onClick={() => {
              if (onGo) return onGo(mark.id);
              const row = sheet?.current?.querySelector<HTMLElement>(`[data-mark="${CSS.escape(mark.id)}"]`);
              row?.scrollIntoView({ block: "center", behavior: "smooth" });
              row?.querySelector<HTMLElement>("input, textarea, select, button, [tabindex]")?.focus();
            }}
          />
        );
      })}
    </fieldset>
  );
}

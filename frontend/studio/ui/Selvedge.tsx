import { type RefObject, useEffect, useState } from "react";

export type Mark = { id: string; wrong: boolean; text: string };

/** The strip along a long sheet: a tick where a row needs a look; pressing it goes there. Rows carry `data-mark`. */
export function Selvedge({ sheet, marks }: { sheet: RefObject<HTMLElement | null>; marks: Mark[] }) {
  const [places, setPlaces] = useState<Record<string, number>>({});
  const ids = marks.map((mark) => mark.id).join(" ");
  useEffect(() => {
    const box = sheet.current;
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
      {marks.map((mark) =>
        places[mark.id] === undefined ? null : (
          <button
            key={mark.id}
            type="button"
            className={mark.wrong ? "wrong" : ""}
            style={{ top: `${(places[mark.id] ?? 0) * 100}%` }}
            title={mark.text}
            aria-label={mark.text}
            onClick={() => {
              const row = sheet.current?.querySelector<HTMLElement>(`[data-mark="${CSS.escape(mark.id)}"]`);
              row?.scrollIntoView({ block: "center", behavior: "smooth" });
              row?.querySelector<HTMLElement>("input, textarea, select, button, [tabindex]")?.focus();
            }}
          />
        ),
      )}
    </fieldset>
  );
}

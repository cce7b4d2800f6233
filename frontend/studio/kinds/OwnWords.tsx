import { useId, useState } from "react";
import { Differs, type Piece } from "../ui/Differs";
import { Input } from "../ui/inputs";
import { RichBox } from "./RichBox";

type Props = {
  id?: string;
  label: string;
  /** What stands where there are none of its own: as HTML, as text, and what it stems from. */
  standing: { html: string; text: string; source: string };
  own: string | null;
  differs: readonly Piece[];
  wrong?: boolean;
  onPut: (html: string | null) => unknown;
};

/** Words that follow shared ones until one ticks that they are its own; what differs then stands beside them. */
export function OwnWords({ id, label, standing, own, differs, wrong, onPut }: Props) {
  const made = useId();
  const box = id ?? made;
  const [begun, setBegun] = useState(false);
  const ticked = own !== null || begun;
  function tick(on: boolean) {
    setBegun(on);
    if (on && standing.html) void onPut(standing.html);
    else if (own !== null) void onPut(null);
  }
  return (
    <div>
      <label className="flex min-h-[26px] items-center gap-1.5">
        <Input
          id={box}
          type="checkbox"
          className="tick"
          checked={ticked}
          onChange={(event) => tick(event.target.checked)}
        />
        words of its own
      </label>
      {own === null && !(begun && !standing.html) ? (
        <p className="mt-1 whitespace-pre-line rounded border border-line bg-cloth px-2.5 py-1.5 text-ink-2">
          {standing.text || "No words yet."}{" "}
          <span className="hint">{standing.source && `From ${standing.source}.`}</span>
        </p>
      ) : (
        <div className="@container mt-1">
          <div className="grid gap-3 @[560px]:grid-cols-2">
            <RichBox
              id={`${box}-words`}
              label={`${label}, own words`}
              value={own ?? ""}
              wrong={wrong}
              onFill={(html) => onPut(html || null)}
            />
            <section className="min-w-0" aria-label={`${label}, what differs`}>
              <p className="hint">
                {differs.every((piece) => piece.how === "same")
                  ? `The same as ${standing.source} so far.`
                  : `What differs from ${standing.source}:`}
              </p>
              <Differs pieces={differs} />
            </section>
          </div>
        </div>
      )}
    </div>
  );
}

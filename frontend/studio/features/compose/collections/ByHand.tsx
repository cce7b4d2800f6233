import { useQuery } from "@tanstack/react-query";
import { useRef, useState } from "react";
import type { Schemas } from "../../../api/client";
import { PRODUCT, type Things } from "../../../api/nouns";
import { ask } from "../../../api/queries";
import { Button, counted } from "../../../ui/basics";
import { focusOnceThere } from "../../../ui/focus";
import { TextArea } from "../../../ui/inputs";
import { Only } from "../../../ui/rights";
import { type Gathering, type Hand, useGathering } from "./useGathering";

const WORDS: Record<Hand, string> = { picked: "put in", kept_out: "kept out", neither: "left to the condition" };

const ACTS: Record<Hand, string> = { picked: "Put in", kept_out: "Keep out", neither: "Leave to the condition" };

/** Put products in or keep them out: found by title or SKU, or a pasted column of SKUs. */
export function ByHand<N extends Gathering>({ noun, row }: { noun: N; row: Things[N] }) {
  const { hand, skus } = useGathering(noun, row);
  const [text, setText] = useState("");
  const box = useRef<HTMLTextAreaElement>(null);
  const [outcome, setOutcome] = useState<{ words: string; wrong: boolean } | null>(null);
  const many = /[\n\t,;]/.test(text.trim());
  const found = useQuery({ ...ask.find(text.trim()), enabled: text.trim() !== "" && !many }).data?.hits ?? [];
  const hits = found.filter((hit) => hit.noun === PRODUCT);
  function send(to: Hand) {
    const only = hits.length === 1 && !many ? hits[0] : undefined;
    if (only) return pick(Number(only.key), only.name, to);
    const title = `${ACTS[to]} the products of the list: ${row.thing.name}`;
    skus(
      text,
      to,
      title,
      ({ problem }) => setOutcome({ words: `${problem.message}. ${problem.help}`, wrong: true }),
      (answer) => {
        setOutcome({ words: pastedWords(answer, to), wrong: answer.unknown.length > 0 });
        setText(answer.unknown.join("\n"));
        again();
      },
    );
  }
  function pick(id: number, name: string, to: Hand) {
    hand([id], to, `${ACTS[to]} ${name}: ${row.thing.name}`, undefined, () => {
      setOutcome({ words: `${name} ${WORDS[to]}`, wrong: false });
      setText("");
      again();
    });
  }
  /** The next product is named where the last one was. */
  const again = () => focusOnceThere(() => box.current);
  const { picked, kept_out } = row.thing;
  return (
    <section aria-label="By hand">
      <p className="band">
        By hand{" "}
        <span>
          · {picked.length} put in, {kept_out.length} kept out
        </span>
      </p>
      <div className="px-[14px] py-3">
        <Only>
          <div className="flex items-start gap-2">
            <TextArea
              ref={box}
              className="input"
              rows={1}
              aria-label="Title or SKU, or a pasted column of SKUs"
              placeholder="Title or SKU, or paste a column of SKUs"
              value={text}
              onChange={(event) => {
                setText(event.target.value);
                setOutcome(null);
              }}
              onKeyDown={(event) => {
                if (event.key === "Enter" && !event.shiftKey && text.trim()) {
                  event.preventDefault();
                  send("picked");
                }
              }}
            />
            <Button right="edit" className="flex-none" disabled={!text.trim()} onClick={() => send("picked")}>
              Put in
            </Button>
            <Button right="edit" className="flex-none" disabled={!text.trim()} onClick={() => send("kept_out")}>
              Keep out
            </Button>
          </div>
        </Only>
        {outcome && (
          <p className={`mt-1 ${outcome.wrong ? "wrongly" : "hint"}`} role="status">
            {outcome.words}
          </p>
        )}
        {hits.length > 0 && (
          <ul className="mt-1" aria-label="Products found">
            {hits.map((hit) => (
              <li key={hit.key} className="flex items-center gap-2 border-b border-line py-0.5">
                <span className="min-w-0 flex-1 truncate">
                  {hit.name} <span className="key">{hit.note}</span>
                </span>
                <Button
                  right="edit"
                  look="quiet"
                  aria-label={`Put in ${hit.name}`}
                  onClick={() => pick(Number(hit.key), hit.name, "picked")}
                >
                  Put in
                </Button>
                <Button
                  right="edit"
                  look="quiet"
                  aria-label={`Keep out ${hit.name}`}
                  onClick={() => pick(Number(hit.key), hit.name, "kept_out")}
                >
                  Keep out
                </Button>
              </li>
            ))}
          </ul>
        )}
      </div>
    </section>
  );
}

/** What a pasted list came to, in a line. */
export function pastedWords(answer: Schemas["SkusOut"], to: Hand): string {
  const parts = [`${counted(answer.found, "product")} ${WORDS[to]}`];
  if (answer.unknown.length) parts.push(`not found, and left in the box: ${some(answer.unknown)}`);
  if (answer.twice.length) parts.push(`there twice: ${some(answer.twice)}`);
  return parts.join("; ");
}

function some(codes: string[]): string {
  return codes.length > 6 ? `${codes.slice(0, 6).join(", ")} and ${codes.length - 6} more` : codes.join(", ");
}

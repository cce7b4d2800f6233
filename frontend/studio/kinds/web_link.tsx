import { Plus } from "lucide-react";
import { ItemButtons } from "../ui/ItemButtons";
import { moved } from "../ui/Sortable";
import { TextBox } from "../ui/TextBox";
import { asText, byHand, type EditorProps, isWrongItem, type KindUi } from "./base";
import { useDraft } from "./useDraft";

type Written = { words: string; address: string };

/** `words <address>`, or an address alone, as two texts; what is neither stands as the address, to be mended there. */
export function readLink(text: string): Written {
  const found = /^(.*?)\s*<([^<>]*)>$/s.exec(text.trim());
  return found ? { words: found[1] ?? "", address: found[2] ?? "" } : { words: "", address: text };
}

/** The two as one text; words that have no address yet are kept beside an empty one, pasted code stands after them. */
export function writeLink({ words, address }: Written): string {
  if (address.trim().startsWith("<")) return `${words.trim()} ${address.trim()}`.trim();
  return words.trim() ? `${words.trim()} <${address.trim()}>` : address.trim();
}

/** Words and address side by side, a line a link, and one more to add the next where a field holds many. */
function LinksInput({ id, at, wrong, onFill }: EditorProps) {
  const { typed } = at.value;
  const kept = Array.isArray(typed) ? typed.map(asText) : asText(typed) ? [asText(typed)] : [];
  const { now: texts, put: putTexts } = useDraft(kept, (next) => onFill(at.field.many ? next : (next[0] ?? null)));
  const rows = at.field.many || texts.length === 0 ? [...texts, ""] : texts;
  const put = (index: number, change: Partial<Written>) =>
    void putTexts((now) => {
      const next = [...now];
      next[index] = writeLink({ ...readLink(now[index] ?? ""), ...change });
      return next.filter((text) => text !== "");
    });
  return (
    <div className="grid gap-1.5">
      {rows.map((text, index) => {
        const link = readLink(text);
        const name = at.field.many ? `, link ${index + 1}` : "";
        return (
          // biome-ignore lint/suspicious/noArrayIndexKey: a link is known by its place
          <span key={index} className="flex items-center gap-1.5">
            <TextBox
              id={index === 0 ? id : undefined}
              aria-label={`${at.field.name}${name}, words`}
              className="!w-[38%]"
              maxLength={200}
              value={link.words}
              placeholder={index < texts.length ? "as the address" : "words"}
              onCommit={(words) => put(index, { words })}
            />
            <TextBox
              aria-label={`${at.field.name}${name}, address`}
              className="flex-1 font-mono"
              inputMode="url"
              wrong={wrong && index < texts.length && isWrongItem(at, index)}
              value={link.address}
              placeholder="https://"
              onCommit={(address) => put(index, { address })}
            />
            {at.field.many &&
              (index < texts.length ? (
                <ItemButtons
                  name={link.words || link.address}
                  index={index}
                  count={texts.length}
                  onMove={byHand(at.field) ? (to) => void putTexts((now) => moved(now, index, to)) : undefined}
                  onTakeOff={() => put(index, { words: "", address: "" })}
                />
              ) : (
                <Plus size={12} className="mx-1.5 text-ink-3" aria-hidden="true" />
              ))}
          </span>
        );
      })}
    </div>
  );
}

/** A kind whose values are words and an address. */
export function linkKind(code: string): KindUi {
  return { code, Editor: LinksInput, tall: (field) => field.many, typed: (value: Written) => writeLink(value) };
}

export const webLink = linkKind("web_link");

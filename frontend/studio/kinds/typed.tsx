import { Plus } from "lucide-react";
import { LineEditor } from "../ui/grid/LineEditor";
import { ItemButtons } from "../ui/ItemButtons";
import { moved } from "../ui/Sortable";
import { TextBox } from "../ui/TextBox";
import { asText, byHand, type CellProps, type EditorProps, isWrongItem, type KindUi, type Look } from "./base";
import { useDraft } from "./useDraft";

/** A kind whose values are typed in a line: one box, or one a value where a field holds many. */
export function typedKind(code: string, look: Look = {}, more: Partial<KindUi> = {}): KindUi {
  return { code, Editor: Typed, Cell: TypedCell, look, typed: (value) => asText(value), ...more };
}

function Typed(props: EditorProps) {
  return props.at.field.many ? <Several {...props} /> : <Single {...props} />;
}

/** A value typed in the line of its cell. */
export function TypedCell({ at, editing }: CellProps) {
  return <LineEditor editing={editing} mono={"pattern" in at.field.limits} />;
}

function Single({ id, at, wrong, onFill, onTyping, look = {} }: EditorProps) {
  return (
    <span className="flex items-center gap-2">
      <TextBox
        id={id}
        wrong={wrong}
        value={asText(at.value.typed)}
        placeholder={at.example}
        className={look.mono || "pattern" in at.field.limits ? "font-mono" : ""}
        onCommit={onFill}
        onTyping={onTyping}
      />
      {look.after?.(at)}
    </span>
  );
}

/** One box a value, and one more to add the next. */
function Several({ id, at, wrong, onFill }: EditorProps) {
  const kept = Array.isArray(at.value.typed)
    ? at.value.typed.map(asText)
    : asText(at.value.typed).split("\n").filter(Boolean);
  const { now: items, put: putItems } = useDraft(kept, onFill);
  const put = (index: number, text: string) =>
    void putItems((now) => {
      const next = [...now];
      next[index] = text;
      return next.filter((item) => item.trim() !== "");
    });
  return (
    <div className="flex flex-wrap gap-1.5">
      {[...items, ""].map((text, index) => (
        // biome-ignore lint/suspicious/noArrayIndexKey: a value is known by its place
        <span key={index} className="flex items-center">
          <TextBox
            id={index === 0 ? id : undefined}
            aria-label={index === 0 ? undefined : `${at.field.name}, value ${index + 1}`}
            className="!w-[108px]"
            wrong={wrong && index < items.length && isWrongItem(at, index)}
            value={text}
            placeholder={index === items.length ? (index === 0 ? at.example || "a value" : "one more") : ""}
            onCommit={(next) => put(index, next)}
          />
          {index < items.length && (
            <ItemButtons
              name={text}
              index={index}
              count={items.length}
              onMove={byHand(at.field) ? (to) => void putItems((now) => moved(now, index, to)) : undefined}
              onTakeOff={() => put(index, "")}
            />
          )}
          {index === items.length && index > 0 && <Plus size={12} className="ml-1 text-ink-3" aria-hidden="true" />}
        </span>
      ))}
    </div>
  );
}

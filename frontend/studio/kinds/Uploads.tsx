import { type ReactNode, useRef, useState } from "react";
import type { Refused } from "../api/client";
import { Button } from "../ui/basics";
import { ItemButtons } from "../ui/ItemButtons";
import { Input } from "../ui/inputs";
import { moved } from "../ui/Sortable";
import { TextBox } from "../ui/TextBox";
import type { EditorProps } from "./base";
import { useDraft } from "./useDraft";

type Props<Kept> = Pick<EditorProps, "id" | "at" | "onFill"> & {
  /** What one is called, and its article: `a picture`. */
  what: string;
  accept: string;
  upload: (file: File) => Promise<Kept>;
  /** The member that holds its words, how many fit, and what they are for. */
  words: { member: keyof Kept & string; most: number; label: string; placeholder: string };
  keyOf: (kept: Kept) => string;
  Sign: (props: { kept: Kept }) => ReactNode;
};

/** Uploaded things in their order, each with words of its own; choose files or drop them. */
export function Uploads<Kept extends object>(props: Props<Kept>) {
  const { id, at, onFill, what, words, Sign } = props;
  const held = at.value.value as Kept[] | Kept | null;
  const standing = held === null || held === undefined ? [] : Array.isArray(held) ? held : [held];
  const { now: kept, put: putKept } = useDraft(standing, (next) => onFill(at.field.many ? next : (next[0] ?? null)));
  const put = (from: (now: Kept[]) => Kept[]) => void putKept(from);
  const [wrong, setWrong] = useState<string[]>([]);
  const [busy, setBusy] = useState(0);
  const chooser = useRef<HTMLInputElement>(null);
  const name = what.replace(/^an? /, "");
  async function take(files: FileList | null) {
    if (!files?.length) return;
    const fresh: Kept[] = [];
    const refusals: string[] = [];
    setBusy(files.length);
    for (const file of files) {
      try {
        fresh.push(await props.upload(file));
      } catch (error) {
        const { message, problem } = error as Refused;
        refusals.push(`${message}. ${problem?.help ?? ""}`);
      }
      setBusy((old) => old - 1);
    }
    setWrong(refusals);
    if (fresh.length) put((now) => (at.field.many ? [...now, ...fresh] : fresh.slice(-1)));
  }
  const again = at.field.many ? `Add ${name}s` : "Choose another";
  return (
    <fieldset
      aria-labelledby={`${id}-label`}
      onDragOver={(event) => event.preventDefault()}
      onDrop={(event) => {
        event.preventDefault();
        void take(event.dataTransfer.files);
      }}
    >
      <ul>
        {kept.map((item, index) => (
          // biome-ignore lint/suspicious/noArrayIndexKey: an item may stand twice
          <li key={`${props.keyOf(item)} ${index}`} className="mb-1.5 flex items-center gap-2">
            <Sign kept={item} />
            <TextBox
              aria-label={`${words.label} ${index + 1}`}
              placeholder={words.placeholder}
              value={String(item[words.member])}
              maxLength={words.most}
              onCommit={(text) =>
                put((now) =>
                  now.map((other, position) => (position === index ? { ...other, [words.member]: text } : other)),
                )
              }
            />
            <ItemButtons
              name={`${name} ${index + 1}`}
              index={index}
              count={kept.length}
              onMove={(to) => put((now) => moved(now, index, to))}
              onTakeOff={() => put((now) => now.filter((_, position) => position !== index))}
            />
          </li>
        ))}
      </ul>
      <Input
        ref={chooser}
        id={id}
        type="file"
        accept={props.accept}
        multiple={at.field.many}
        className="sr"
        tabIndex={-1}
        onChange={(event) => {
          void take(event.target.files).then(() => {
            if (chooser.current) chooser.current.value = "";
          });
        }}
      />
      <Button onClick={() => chooser.current?.click()} busy={busy > 0}>
        {busy > 0 ? `Uploading, ${busy} to go` : kept.length ? again : `Choose or drop ${what}`}
      </Button>
      {wrong.map((text) => (
        <p key={text} className="wrongly mt-1" role="alert">
          {text}
        </p>
      ))}
    </fieldset>
  );
}

import { ArrowLeft, ArrowRight, X } from "lucide-react";
import { useRef, useState } from "react";
import { type Refused, uploadPicture } from "../api/client";
import { Button } from "../ui/basics";
import { moved } from "../ui/Sortable";
import { TextBox } from "../ui/TextBox";
import type { EditorProps, KindUi } from "./base";

type Picture = { file: string; alt: string; width: number; height: number };

/** Pictures in their order, each with words for those who can't see it; choose files or drop them. */
function PicturesInput({ id, at, onFill }: EditorProps) {
  const held = at.value.value as Picture[] | Picture | null;
  const pictures = held === null || held === undefined ? [] : Array.isArray(held) ? held : [held];
  const [wrong, setWrong] = useState<string[]>([]);
  const [busy, setBusy] = useState(0);
  const chooser = useRef<HTMLInputElement>(null);
  const put = (next: Picture[]) => onFill(at.field.many ? next : (next[0] ?? null));
  async function take(files: FileList | null) {
    if (!files?.length) return;
    const kept: Picture[] = [];
    const refusals: string[] = [];
    setBusy(files.length);
    for (const file of files) {
      try {
        kept.push({ ...(await uploadPicture(file)), alt: "" });
      } catch (error) {
        const { message, problem } = error as Refused;
        refusals.push(`${message}. ${problem?.help ?? ""}`);
      }
      setBusy((old) => old - 1);
    }
    setWrong(refusals);
    if (kept.length) put(at.field.many ? [...pictures, ...kept] : kept.slice(-1));
  }
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
        {pictures.map((picture, index) => (
          // biome-ignore lint/suspicious/noArrayIndexKey: a picture may stand twice
          <li key={`${picture.file} ${index}`} className="mb-1.5 flex items-center gap-2">
            <img
              src={`/files/${picture.file}-160.webp`}
              alt={picture.alt}
              width={44}
              height={44}
              className="h-11 w-11 flex-none rounded border border-line object-cover"
            />
            <TextBox
              aria-label={`Words for picture ${index + 1}`}
              placeholder="What it shows, in words"
              value={picture.alt}
              maxLength={300}
              onCommit={(alt) => put(pictures.map((other) => (other === picture ? { ...other, alt } : other)))}
            />
            {pictures.length > 1 && (
              <>
                <IconButton
                  label={`Picture ${index + 1} earlier`}
                  disabled={index === 0}
                  onClick={() => put(moved(pictures, index, index - 1))}
                >
                  <ArrowLeft size={14} />
                </IconButton>
                <IconButton
                  label={`Picture ${index + 1} later`}
                  disabled={index === pictures.length - 1}
                  onClick={() => put(moved(pictures, index, index + 1))}
                >
                  <ArrowRight size={14} />
                </IconButton>
              </>
            )}
            <IconButton
              label={`Take picture ${index + 1} off`}
              onClick={() => put(pictures.filter((other) => other !== picture))}
            >
              <X size={14} />
            </IconButton>
          </li>
        ))}
      </ul>
      <input
        ref={chooser}
        id={id}
        type="file"
        accept="image/jpeg,image/png,image/webp"
        multiple={at.field.many}
        className="sr"
        tabIndex={-1}
        onChange={(event) => {
          void take(event.target.files).then(() => {
            if (chooser.current) chooser.current.value = "";
          });
        }}
      />
      <Button onClick={() => chooser.current?.click()} disabled={busy > 0}>
        {busy > 0
          ? `Uploading, ${busy} to go`
          : pictures.length
            ? at.field.many
              ? "Add pictures"
              : "Choose another"
            : "Choose or drop a picture"}
      </Button>
      {wrong.map((text) => (
        <p key={text} className="wrongly mt-1" role="alert">
          {text}
        </p>
      ))}
    </fieldset>
  );
}

function IconButton(props: { label: string; disabled?: boolean; onClick: () => void; children: React.ReactNode }) {
  return (
    <button
      type="button"
      className="grid h-6 w-6 flex-none place-items-center rounded text-ink-2 hover:bg-woad-tint disabled:opacity-30"
      aria-label={props.label}
      title={props.label}
      disabled={props.disabled}
      onClick={props.onClick}
    >
      {props.children}
    </button>
  );
}

export const picture: KindUi = { code: "picture", Editor: PicturesInput, tall: () => true };

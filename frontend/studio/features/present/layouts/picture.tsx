import { useRef, useState } from "react";
import { type Refused, uploadPicture } from "../../../api/client";
import { Button } from "../../../ui/basics";
import { Input } from "../../../ui/inputs";
import { TextBox } from "../../../ui/TextBox";
import type { MemberProps } from "./parts";

export type Picture = { file: string; alt: string; width: number; height: number };

/** A block's picture: chosen or dropped, with words for those who can't see it. */
export function PictureControl({ id, value, onPut }: MemberProps) {
  const kept = (value as Partial<Picture> | undefined)?.file ? (value as Picture) : null;
  const [wrong, setWrong] = useState("");
  const [busy, setBusy] = useState(false);
  const chooser = useRef<HTMLInputElement>(null);
  async function take(file: File | undefined) {
    if (!file) return;
    setBusy(true);
    try {
      onPut({ ...(await uploadPicture(file)), alt: kept?.alt ?? "" });
      setWrong("");
    } catch (error) {
      const { message, problem } = error as Refused;
      setWrong(`${message}. ${problem?.help ?? ""}`);
    }
    setBusy(false);
    if (chooser.current) chooser.current.value = "";
  }
  return (
    <fieldset
      aria-label="Picture"
      onDragOver={(event) => event.preventDefault()}
      onDrop={(event) => {
        event.preventDefault();
        void take(event.dataTransfer.files[0]);
      }}
    >
      <Input
        ref={chooser}
        id={id}
        type="file"
        accept="image/jpeg,image/png,image/webp"
        className="sr"
        tabIndex={-1}
        onChange={(event) => void take(event.target.files?.[0])}
      />
      <Button onClick={() => chooser.current?.click()} busy={busy}>
        {busy ? "Uploading" : kept ? "Choose another" : "Choose or drop a picture"}
      </Button>
      {kept && (
        <TextBox
          className="mt-1"
          aria-label="Words for the picture"
          placeholder="What it shows, in words"
          value={kept.alt}
          maxLength={300}
          onCommit={(alt) => onPut({ ...kept, alt })}
        />
      )}
      {wrong && (
        <p className="wrongly mt-1" role="alert">
          {wrong}
        </p>
      )}
    </fieldset>
  );
}

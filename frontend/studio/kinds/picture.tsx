import { uploadPicture } from "../api/client";
import type { CellProps, EditorProps, KindUi } from "./base";
import { Uploads } from "./Uploads";

type Picture = { file: string; alt: string; width: number; height: number };

/** Pictures, each with words for those who can't see it. */
function PicturesInput(props: EditorProps) {
  return (
    <Uploads<Picture>
      {...props}
      what="a picture"
      accept="image/jpeg,image/png,image/webp"
      upload={async (file) => ({ ...(await uploadPicture(file)), alt: "" })}
      words={{ member: "alt", most: 300, label: "Words for picture", placeholder: "What it shows, in words" }}
      keyOf={(picture) => picture.file}
      Sign={Thumbnail}
    />
  );
}

function Thumbnail({ kept }: { kept: Picture }) {
  return (
    <img
      src={`/files/${kept.file}-160.webp`}
      alt={kept.alt}
      width={44}
      height={44}
      className="h-11 w-11 flex-none rounded border border-line object-cover"
    />
  );
}

/** The first of them, small, and how many there are. */
function PicturesShown({ at }: Pick<CellProps, "at">) {
  const held = at.value.typed as Picture[] | Picture | null;
  const pictures = Array.isArray(held) ? held : held ? [held] : [];
  const [first] = pictures;
  if (!first?.file) return null;
  return (
    <>
      <img
        src={`/files/${first.file}-160.webp`}
        alt={first.alt}
        width={24}
        height={24}
        className="h-6 w-6 flex-none rounded object-cover"
      />
      {pictures.length > 1 && <span className="text-ink-2">{pictures.length}</span>}
    </>
  );
}

export const picture: KindUi = { code: "picture", Editor: PicturesInput, Shown: PicturesShown, tall: () => true };

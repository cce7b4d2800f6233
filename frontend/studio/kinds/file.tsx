import { useQuery } from "@tanstack/react-query";
import { uploadFile } from "../api/client";
import { ask } from "../api/queries";
import { number } from "../ui/locale";
import type { EditorProps, KindUi } from "./base";
import { Uploads } from "./Uploads";

type Kept = { file: string; words: string; type: string; bytes: number };

/** Files for download, each with the words shoppers read. */
function FilesInput(props: EditorProps) {
  const types = useQuery(ask.meta()).data?.file_types ?? [];
  const allowed = props.at.field.limits.types as string[] | undefined;
  const offered = types.filter(({ code }) => !allowed || allowed.includes(code));
  return (
    <Uploads<Kept>
      {...props}
      what="a file"
      accept={offered.flatMap(({ endings }) => endings).join(",")}
      upload={async (file) => {
        const { name, ...kept } = await uploadFile(file);
        return { ...kept, words: name.replace(/\.[^.]+$/, "").replaceAll("_", " ") || name };
      }}
      words={{ member: "words", most: 200, label: "Words for file", placeholder: "What shoppers read" }}
      keyOf={({ file }) => file}
      Sign={Sort}
    />
  );
}

function Sort({ kept }: { kept: Kept }) {
  const types = useQuery(ask.meta()).data?.file_types ?? [];
  const label = types.find(({ code }) => code === kept.type)?.label ?? kept.type;
  return (
    <a className="link flex-none text-ink-2" href={`/downloads/${kept.file}`} download>
      {label}, {number(Math.max(1, Math.round(kept.bytes / 1000)))} kB
    </a>
  );
}

export const file: KindUi = { code: "file", Editor: FilesInput, tall: () => true };

import { keepPreviousData, useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { client, data } from "../../../api/client";
import type { Things } from "../../../api/nouns";
import { useSaving } from "../../../state/saving";
import { Button, counted, Dialog } from "../../../ui/basics";
import { Input, TextArea } from "../../../ui/inputs";

const WAYS = {
  paste: {
    button: "Paste a list",
    title: "Paste values into",
    note: "One a line: the label, with colours as #rrggbb after it; or label, code and other writings, with tabs or semicolons between.",
    address: "/api/value_lists/{key}/paste",
  },
  table: {
    button: "Import CSV",
    title: "Import values into",
    note: "The first line names the columns: code, label, also, retired, colours, picture, short, note, link. What has no column stays as it is.",
    address: "/api/value_lists/{key}/table",
  },
} as const;
type Way = keyof typeof WAYS;

/** Read many values at once, pasted or from a file: what becomes of them is told before anything is written. */
export function ReadValues({ row, way, onDone }: { row: Things["value_list"]; way: Way; onDone: () => void }) {
  const [busy, setBusy] = useState(false);
  const [open, setOpen] = useState(false);
  const [text, setText] = useState("");
  const { save } = useSaving();
  const { button, title, note, address } = WAYS[way];
  const send = (apply: boolean) =>
    data(
      client.POST(address, {
        params: { path: { key: row.thing.key } },
        body: { version: row.version, text, apply },
      }),
    );
  const read = useQuery({
    queryKey: ["paste", way, row.thing.key, row.version, text],
    queryFn: () => send(false),
    // While it is put in, what it was told to be stands: the list it is judged by is another by then.
    enabled: open && text.trim() !== "" && !busy,
    placeholderData: keepPreviousData,
  });
  const close = () => {
    setOpen(false);
    setText("");
  };
  async function apply() {
    setBusy(true);
    const done = await save(() => send(true), { noun: "value_list", done: `Values put into ${row.thing.name}` });
    setBusy(false);
    if (!done) return;
    close();
    onDone();
  }
  const shown = text.trim() ? read.data : undefined;
  const count = shown ? shown.added.length + shown.changed.length : 0;
  return (
    <>
      <Button right="edit" onClick={() => setOpen(true)}>
        {button}
      </Button>
      <Dialog open={open} onClose={close} title={`${title} ${row.thing.name}`} note={note}>
        {way === "table" && (
          <Input
            type="file"
            accept=".csv,.tsv,.txt,text/csv"
            className="mb-2 block"
            aria-label="CSV file"
            onChange={(event) => void event.target.files?.[0]?.text().then(setText)}
          />
        )}
        <TextArea
          className="input"
          rows={7}
          aria-label={way === "table" ? "Table as CSV" : "Values, one a line"}
          value={text}
          onChange={(event) => setText(event.target.value)}
        />
        <div className="scroll mt-2 max-h-48 min-h-[40px]" aria-live="polite">
          {read.error && text.trim() && (
            <p className="wrongly" role="alert">
              {read.error.message}
            </p>
          )}
          {shown && !read.error && (
            <>
              <Some count={shown.added.length} words="to add" values={shown.added} />
              {shown.changed.length > 0 && (
                <Some count={shown.changed.length} words="to change" values={shown.changed} />
              )}
              {shown.skipped.map((line) => (
                <p key={line.line} className="text-ink-2">
                  Line {line.line}, {line.text}: {line.reason}
                </p>
              ))}
            </>
          )}
        </div>
        <div className="mt-3 flex justify-end gap-2">
          <Button onClick={close}>Leave it</Button>
          <Button look="primary" busy={busy} disabled={!count || Boolean(read.error)} onClick={apply}>
            {busy ? `Putting in ${count}…` : shown?.changed.length ? `Put in ${count}` : `Add ${count}`}
          </Button>
        </div>
      </Dialog>
    </>
  );
}

function Some(props: { count: number; words: string; values: readonly { label: string; code: string }[] }) {
  const { count, words, values } = props;
  return (
    <p>
      <b>{counted(count, "value")}</b> {words}
      {count > 0 && (
        <span className="text-ink-3">
          :{" "}
          {values
            .slice(0, 5)
            .map((value) => `${value.label} (${value.code})`)
            .join(", ")}
          {count > 5 && "…"}
        </span>
      )}
    </p>
  );
}

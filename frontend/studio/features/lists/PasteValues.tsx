import { keepPreviousData, useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { client, data } from "../../api/client";
import type { Things } from "../../app/nouns";
import { useSaving } from "../../app/saving";
import { Button, counted, Dialog } from "../../ui/basics";

/** Paste many values at once: what is added and what is skipped is told before anything is written. */
export function PasteValues({ row }: { row: Things["value_list"] }) {
  const [open, setOpen] = useState(false);
  const [text, setText] = useState("");
  const { save } = useSaving();
  const path = { key: row.thing.key };
  const read = useQuery({
    queryKey: ["paste", row.thing.key, row.version, text],
    queryFn: () =>
      data(
        client.POST("/api/value_lists/{key}/paste", {
          params: { path },
          body: { version: row.version, text, apply: false },
        }),
      ),
    enabled: open && text.trim() !== "",
    placeholderData: keepPreviousData,
  }).data;
  async function apply() {
    const done = await save(
      () =>
        data(
          client.POST("/api/value_lists/{key}/paste", {
            params: { path },
            body: { version: row.version, text, apply: true },
          }),
        ),
      { noun: "value_list", done: `Values added to ${row.thing.name}` },
    );
    if (!done) return;
    setOpen(false);
    setText("");
  }
  const shown = text.trim() ? read : undefined;
  return (
    <>
      <Button onClick={() => setOpen(true)}>Paste a list</Button>
      <Dialog
        open={open}
        onClose={() => setOpen(false)}
        title={`Paste values into ${row.thing.name}`}
        note="One a line: the label; or label, code and other writings, with tabs or semicolons between."
      >
        <textarea
          className="input"
          rows={7}
          aria-label="Values, one a line"
          value={text}
          onChange={(event) => setText(event.target.value)}
        />
        <div className="mt-2 min-h-[40px]" aria-live="polite">
          {shown && (
            <p>
              <b>{counted(shown.added.length, "value")}</b> to add
              {shown.added.length > 0 && (
                <span className="text-ink-3">
                  :{" "}
                  {shown.added
                    .slice(0, 5)
                    .map((value) => `${value.label} (${value.code})`)
                    .join(", ")}
                  {shown.added.length > 5 && "…"}
                </span>
              )}
            </p>
          )}
          {shown?.skipped.map((line) => (
            <p key={line.line} className="text-ink-2">
              Line {line.line}, {line.text}: {line.reason}
            </p>
          ))}
        </div>
        <div className="mt-3 flex justify-end gap-2">
          <Button onClick={() => setOpen(false)}>Leave it</Button>
          <Button look="primary" disabled={!shown?.added.length} onClick={apply}>
            Add {shown?.added.length ?? 0}
          </Button>
        </div>
      </Dialog>
    </>
  );
}

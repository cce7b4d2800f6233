import { keepPreviousData, useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { client, data, type Schemas } from "../../../api/client";
import { kindUi } from "../../../kinds";

/** Type a value and see at once what it becomes, or why it does not. */
export function TryValue({ field, example }: { field: Schemas["Field"]; example: string }) {
  const [text, setText] = useState(example);
  const { Written, read = (typed: string) => typed } = kindUi(field.kind);
  const tried = useQuery({
    queryKey: ["try", field.key, field, text],
    queryFn: () => data(client.POST("/api/fields/try", { body: { key: field.key, texts: [text], changes: {} } })),
    placeholderData: keepPreviousData,
  }).data?.tried[0];
  return (
    <section className="border-t border-line px-[14px] py-3">
      <h3>Try a value</h3>
      <div className="mt-2 grid grid-cols-[104px_minmax(0,1fr)] items-center gap-x-3 gap-y-2">
        <label htmlFor="try" className="text-ink-2">
          You type
        </label>
        {Written ? (
          <Written id="try" label="You type" value={text} onPut={setText} />
        ) : (
          <input
            id="try"
            className="input"
            value={text}
            autoComplete="off"
            onChange={(event) => setText(event.target.value)}
          />
        )}
        <span className="text-ink-2">It becomes</span>
        <output htmlFor="try" className="min-h-[20px] min-w-0 [overflow-wrap:anywhere]">
          {!tried || text.trim() === "" ? (
            <span className="hint">nothing</span>
          ) : tried.message ? (
            <span className="font-semibold text-madder">{tried.message}</span>
          ) : (
            <>
              <b>{read(tried.stored)}</b>{" "}
              <span className="text-ink-3">
                on the page: “{field.label} {read(tried.shown)}”
              </span>
            </>
          )}
        </output>
      </div>
    </section>
  );
}

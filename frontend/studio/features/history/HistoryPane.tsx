import { useQuery } from "@tanstack/react-query";
import { client, data } from "../../api/client";
import { ask } from "../../api/queries";
import { ago, useSaving } from "../../app/saving";
import { Empty } from "../../ui/basics";

/** What was changed in a thing, by whom, each change with its way back. */
export function HistoryPane({ noun, thing }: { noun: string; thing: string }) {
  const changes = useQuery(ask.changes(noun, thing)).data?.changes;
  const { save } = useSaving();
  if (!changes) return null;
  if (changes.length === 0)
    return <Empty title="Nothing was changed yet">Every change is kept here, and can be undone.</Empty>;
  return (
    <ol className="scroll min-h-0 flex-1 px-[14px] py-2" aria-label="History">
      {changes.map((one) => (
        <li key={one.id} className="border-b border-line py-2">
          <p className="flex gap-2 text-ink-3">
            <span className="text-ink-2">{one.person}</span>
            <time dateTime={one.at} title={new Date(one.at).toLocaleString("en")}>
              {ago(Date.now() - new Date(one.at).getTime())}
            </time>
            <span className="ml-auto">
              {one.undone ? (
                "undone"
              ) : (
                <button
                  type="button"
                  className="link"
                  onClick={() =>
                    save(() =>
                      data(client.POST("/api/changes/{number}/undo", { params: { path: { number: one.id } } })),
                    )
                  }
                >
                  {one.is_undo ? "Redo" : "Undo"}
                </button>
              )}
            </span>
          </p>
          {one.lines.slice(0, 6).map((line) => (
            <p key={line} className={one.undone ? "text-ink-3 line-through" : ""}>
              {line}
            </p>
          ))}
          {one.lines.length > 6 && <p className="hint">and {one.lines.length - 6} more</p>}
        </li>
      ))}
    </ol>
  );
}

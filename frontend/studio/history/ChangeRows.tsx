import { useInfiniteQuery } from "@tanstack/react-query";
import { Link } from "react-router";
import { toast } from "sonner";
import { client, data, type Schemas } from "../api/client";
import { placeOf } from "../api/nouns";
import { ago, UNDER_WAY, useSaving } from "../state/saving";
import { Button, Empty } from "../ui/basics";
import { LOCALE } from "../ui/locale";
import { Only } from "../ui/rights";

const MOST_LINES = 6;
const PAGE = 50;

/** What was changed, by whom and when, each with its way back; older ones on demand. */
export function ChangeRows({ noun, thing }: { noun?: string; thing?: string }) {
  const found = useInfiniteQuery({
    queryKey: ["changes", noun, thing],
    initialPageParam: undefined as number | undefined,
    queryFn: ({ pageParam }) =>
      data(client.GET("/api/changes", { params: { query: { noun, key: thing, before: pageParam } } })),
    getNextPageParam: (last) => (last.changes.length < PAGE ? undefined : last.changes.at(-1)?.id),
  });
  const changes = found.data?.pages.flatMap((page) => page.changes);
  if (!changes) return null;
  if (changes.length === 0)
    return <Empty title="Nothing was changed yet">Every change is kept here, and can be undone.</Empty>;
  return (
    <div className="scroll min-h-0 flex-1 px-[14px] pb-3">
      <ol aria-label="Changes">
        {changes.map((change) => (
          <ChangeRow key={change.id} change={change} named={thing === undefined} />
        ))}
      </ol>
      {found.hasNextPage && (
        <Button className="mt-3" disabled={found.isFetchingNextPage} onClick={() => found.fetchNextPage()}>
          Show earlier ones
        </Button>
      )}
    </div>
  );
}

function ChangeRow({ change, named }: { change: Schemas["ChangeOut"]; named: boolean }) {
  const { save } = useSaving();
  const look = change.undone ? "text-ink-3 line-through" : "text-ink-2";
  const undo = () =>
    save(() => data(client.POST("/api/changes/{number}/undo", { params: { path: { number: change.id } } }))).then(
      (taken) => taken?.job && toast(`Under way: ${taken.name}`, { description: UNDER_WAY }),
    );
  return (
    <li className="border-b border-line py-2">
      <p className="flex items-baseline gap-2">
        {named && (
          <Link className="link min-w-0 truncate font-semibold" to={placeOf(change.noun, change.key)}>
            {change.name}
          </Link>
        )}
        <span className="flex-none text-ink-3">
          <span className={named ? "" : "text-ink-2"}>{change.person}</span>,{" "}
          <time dateTime={change.at} title={new Date(change.at).toLocaleString(LOCALE)}>
            {ago(Date.now() - new Date(change.at).getTime())}
          </time>
        </span>
        <span className="ml-auto flex-none">
          {change.undone ? (
            <span className="text-ink-3">undone</span>
          ) : (
            <Only>
              <button type="button" className="link" onClick={undo}>
                {change.is_undo ? "Redo" : "Undo"}
              </button>
            </Only>
          )}
        </span>
      </p>
      {named ? (
        <p className={`truncate ${look}`} title={change.lines.join(", ")}>
          {change.lines.join(" · ")}
        </p>
      ) : (
        change.lines.slice(0, MOST_LINES).map((line) => (
          <p key={line} className={look}>
            {line}
          </p>
        ))
      )}
      {!named && change.lines.length > MOST_LINES && (
        <p className="hint">and {change.lines.length - MOST_LINES} more</p>
      )}
    </li>
  );
}

import { useQueryClient } from "@tanstack/react-query";
import { useEffect, useRef, useState } from "react";
import { toast } from "sonner";
import { client, data, Refused, type Schemas } from "../../../api/client";
import { ask } from "../../../api/queries";
import { useSaving } from "../../../state/saving";
import { useUnwritten } from "../../../state/unwritten";
import { counted } from "../../../ui/basics";
import { type Edit, layoutOf, type Own, type View } from "./tree";

type Outcome = Schemas["LayoutConsequencesOut"];
/** Edits tried on a version of a layout, and what would come of them. */
type Tried = { edits: Edit[]; version: number; outcome: Outcome };
/** The layout and the version that the next edit is made of; neither before an arrangement has begun. */
type Stands = { key: string | null; version: number | null };

/**
 * Editing a layout. Where no other builds on it, an edit is made at once, and can be undone; where others do, edits are
 * tried on the pages first, with what follows from them, and made together. An arrangement begins with its first edit:
 * `onBegun` is told its key.
 */
export function useLayoutEdits(view: View, onBegun: (key: string) => void) {
  const { save } = useSaving();
  const queries = useQueryClient();
  const [tried, setTried] = useState<Tried | null>(null);
  const stands = useRef<Stands>(view.own ? { key: null, version: null } : view);
  if (!view.own && view.version > (stands.current.version ?? 0)) stands.current = view;
  const careful = view.builders.length > 0;

  function refused(error: unknown) {
    if (!(error instanceof Refused)) throw error;
    toast.error(error.problem.message, { description: error.problem.help, duration: 8000 });
  }
  /** Send edits made of a version, that of the last answer unless given. */
  async function send(edits: Edit[], of?: number): Promise<View> {
    const { key } = stands.current;
    const version = of ?? stands.current.version;
    const made = key
      ? await data(
          client.POST("/api/layouts/{key}/edits", {
            params: { path: { key } },
            body: { edits, version: version as number },
          }),
        )
      : await data(client.POST("/api/arrangements/edits", { body: { ...(view.own as Own), edits, version } }));
    stands.current = made;
    queries.setQueryData(ask.layout(made.key).queryKey, made);
    if (!key) onBegun(made.key);
    return made;
  }
  const write = (edits: Edit[], of?: number, done?: string, then?: () => void): Promise<View | null> => {
    const made = (version?: number) =>
      send(edits, version).then((answer) => {
        then?.();
        return answer;
      });
    return save(() => made(of), { noun: "layout", done, over: made });
  };

  async function attempt(edits: Edit[], of = view.version): Promise<View | null> {
    try {
      const outcome = await data(
        client.POST("/api/layouts/{key}/edits/preview", { params: { path: { key: view.key } }, body: { edits } }),
      );
      setTried({ edits, version: of, outcome });
      return outcome.view;
    } catch (error) {
      refused(error);
      return null;
    }
  }
  useKept(view.key, careful, tried, attempt);
  const leave = () => {
    // The view may be gone before it is drawn without it.
    sessionStorage.removeItem(keptAs(view.key));
    setTried(null);
  };
  const make = async () =>
    tried !== null && (await write(tried.edits, tried.version, `${view.name} changed`, leave)) !== null;
  useUnwritten(
    tried && {
      title: `${counted(tried.edits.length, "change")} of ${view.name} ${tried.edits.length === 1 ? "is" : "are"} tried and not made`,
      make,
      drop: leave,
    },
  );
  /** Make edits, or try them; gives the layout as it is then, null where they are refused. */
  const edit = (...edits: Edit[]) =>
    careful ? attempt([...(tried?.edits ?? []), ...edits], tried?.version) : write(edits);
  /** Make the words of a block a field or shared copy, in one step that is undone as one. */
  const lift = async (block: string, what: "as_field" | "as_copy"): Promise<View | null> => {
    const address =
      what === "as_field" ? "/api/layouts/{key}/blocks/{block}/field" : "/api/layouts/{key}/blocks/{block}/copy";
    const key = layoutOf(view);
    const made = await save(() => data(client.POST(address, { params: { path: { key, block } } })), {
      done:
        what === "as_field"
          ? "The words are a field now, of the types that showed them and set to show where they stood"
          : "The words are shared copy now",
    });
    if (made) queries.setQueryData(ask.layout(key).queryKey, made);
    return made;
  };
  const shown: View = tried?.outcome.view ?? view;
  return { view: shown, tried, edit, lift, make, leave, careful };
}

/** Keeps what is tried while the window is open, so that a reload finds it again. */
function useKept(
  key: string,
  careful: boolean,
  tried: Tried | null,
  attempt: (edits: Edit[], of: number) => Promise<View | null>,
) {
  const name = keptAs(key);
  const asked = useRef(false);
  // biome-ignore lint/correctness/useExhaustiveDependencies: what was kept is tried once, when the layout is opened
  useEffect(() => {
    if (asked.current || !careful) return;
    asked.current = true;
    const kept = readKept(name);
    if (kept) void attempt(kept.edits, kept.version);
  }, [careful]);
  const begun = useRef(false);
  useEffect(() => {
    if (tried) {
      begun.current = true;
      sessionStorage.setItem(name, JSON.stringify({ edits: tried.edits, version: tried.version }));
    } else if (begun.current) sessionStorage.removeItem(name);
  }, [name, tried]);
}

const keptAs = (key: string) => `tried ${key}`;

function readKept(name: string): { edits: Edit[]; version: number } | null {
  try {
    const kept = JSON.parse(sessionStorage.getItem(name) ?? "null");
    return kept && Array.isArray(kept.edits) && typeof kept.version === "number" ? kept : null;
  } catch {
    return null;
  }
}

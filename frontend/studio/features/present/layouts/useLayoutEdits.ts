import { useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { toast } from "sonner";
import { client, data, Refused, type Schemas } from "../../../api/client";
import { ask } from "../../../api/queries";
import { useSaving } from "../../../state/saving";
import type { Edit, View } from "./tree";

type Outcome = Schemas["LayoutConsequencesOut"];

/**
 * Editing a layout. Where no other builds on it, an edit is made at once, and can be undone; where others do, edits are
 * tried on the pages first, with what follows from them, and made together.
 */
export function useLayoutEdits(view: View) {
  const { save } = useSaving();
  const queries = useQueryClient();
  const [tried, setTried] = useState<{ edits: Edit[]; outcome: Outcome } | null>(null);
  const path = { path: { key: view.key } };
  const careful = view.builders.length > 0;

  function refused(error: unknown) {
    if (!(error instanceof Refused)) throw error;
    toast.error(error.problem.message, { description: error.problem.help, duration: 8000 });
  }
  async function write(edits: Edit[], done?: string): Promise<View | null> {
    const made = await save(() => data(client.POST("/api/layouts/{key}/edits", { params: path, body: { edits } })), {
      noun: "layout",
      done,
    });
    if (made) queries.setQueryData(ask.layout(view.key).queryKey, made);
    return made;
  }
  async function attempt(edits: Edit[]): Promise<View | null> {
    const all = [...(tried?.edits ?? []), ...edits];
    try {
      const outcome = await data(
        client.POST("/api/layouts/{key}/edits/preview", { params: path, body: { edits: all } }),
      );
      setTried({ edits: all, outcome });
      return outcome.view;
    } catch (error) {
      refused(error);
      return null;
    }
  }
  /** Make edits, or try them; gives the layout as it is then, null where they are refused. */
  const edit = (...edits: Edit[]) => (careful ? attempt(edits) : write(edits));
  /** Make the words of a block a field or shared copy, in one step that is undone as one. */
  const lift = async (block: string, what: "as_field" | "as_copy"): Promise<View | null> => {
    const address =
      what === "as_field" ? "/api/layouts/{key}/blocks/{block}/field" : "/api/layouts/{key}/blocks/{block}/copy";
    const made = await save(() => data(client.POST(address, { params: { path: { key: view.key, block } } })), {
      done: what === "as_field" ? "The words are a field now" : "The words are shared copy now",
    });
    if (made) queries.setQueryData(ask.layout(view.key).queryKey, made);
    return made;
  };
  async function make() {
    if (!tried) return;
    const made = await write(tried.edits, `${view.name} changed`);
    if (made) setTried(null);
  }
  return { view: tried?.outcome.view ?? view, tried, edit, lift, make, leave: () => setTried(null), careful };
}

import { client, data, type Refused } from "../api/client";
import { NOUNS, type Things } from "../api/nouns";
import { useSaving } from "../state/saving";
import { useThing } from "../state/things";

/** Nouns whose things hold values of their own. */
export type HolderNoun = "collection" | "record";

/** A thing's own fields, and the way to fill one: from the version last heard of. */
export function useOwnFields<N extends HolderNoun>(noun: N, row: Things[N]) {
  const { save } = useSaving();
  const { current } = useThing(noun, row);
  const address = `/api/${NOUNS[noun].plural}/{key}/values` as "/api/records/{key}/values";
  const path = { params: { path: { key: row.thing.key } } };
  function fill(values: Record<string, unknown>, onRefused: (refused: Refused) => void) {
    const write = (version: number) => data(client.PATCH(address, { ...path, body: { version, values } }));
    return save(() => write(current().version), { noun, over: write, onRefused });
  }
  return { fill };
}

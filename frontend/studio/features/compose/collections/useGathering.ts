import { client, data, type Refused, type Schemas } from "../../../api/client";
import { NOUNS, type Things } from "../../../api/nouns";
import { useSaving } from "../../../state/saving";
import { useThing } from "../../../state/things";

/** What gathers products by hand. */
export type Gathering = "collection" | "option_set";
export type Hand = Schemas["HandIn"]["to"];
type OnRefused = (refused: Refused) => void;

/** A collection, or what else gathers products, and the ways to write it: its members as of any thing, and hands. */
export function useGathering<N extends Gathering>(noun: N, row: Things[N]) {
  const { save, latest } = useSaving();
  const thing = useThing(noun, row);
  const { key } = row.thing;
  const path = { params: { path: { key } } };
  const address = `/api/${NOUNS[noun].plural}/{key}`;
  const keep = (answer: unknown) => {
    latest.set(`${noun}/${key}`, answer);
    return answer;
  };

  /** Put products in by hand, keep them out, or leave them to the condition. */
  function hand(ids: number[], to: Hand, done?: string) {
    return save(
      async () =>
        keep(
          await data(client.POST(`${address}/hands` as "/api/collections/{key}/hands", { ...path, body: { ids, to } })),
        ),
      { noun, done },
    );
  }
  /** The same for a pasted list of SKUs; gives what was found and what was not. */
  function skus(text: string, to: Hand, onRefused: OnRefused) {
    return save(
      () => data(client.POST(`${address}/skus` as "/api/collections/{key}/skus", { ...path, body: { text, to } })),
      { noun, onRefused },
    );
  }
  /** Have products gathered whose job was stopped or lost. */
  function gather() {
    return save(
      async () => keep(await data(client.POST(`${address}/gather` as "/api/collections/{key}/gather", path))),
      { noun },
    );
  }
  return { ...thing, hand, skus, gather };
}

import { client, data, type Refused, type Schemas } from "../../../api/client";
import { NOUNS, type Things } from "../../../api/nouns";
import { useConsiderHands } from "../../../considering/Considering";
import { useSaving } from "../../../state/saving";
import { useThing } from "../../../state/things";

/** What gathers products by hand. */
export type Gathering = "collection" | "option_set";
export type Hand = Schemas["HandIn"]["to"];
type OnRefused = (refused: Refused) => void;

/** A collection, or what else gathers products, and the ways to write it: its members as of any thing, and hands. */
export function useGathering<N extends Gathering>(noun: N, row: Things[N]) {
  const { save, latest } = useSaving();
  const consider = useConsiderHands();
  const thing = useThing(noun, row);
  const { key } = row.thing;
  const path = { params: { path: { key } } };
  const address = `/api/${NOUNS[noun].plural}/{key}`;
  const keep = (answer: unknown) => {
    latest.set(`${noun}/${key}`, answer);
    return answer;
  };

  /** Put products in by hand, keep them out, or leave them to the condition; `title` names it where it is asked about. */
  function hand(ids: number[], to: Hand, title: string, done?: string, then?: () => void) {
    consider(title, noun, key, { ids, to }, async () => (await write(ids, to, done)) && then?.());
  }
  function write(ids: number[], to: Hand, done?: string) {
    return save(
      async () =>
        keep(
          await data(client.POST(`${address}/hands` as "/api/collections/{key}/hands", { ...path, body: { ids, to } })),
        ),
      { noun, done },
    );
  }
  /** The same for a pasted list of SKUs; `then` gets what was found and what was not. */
  function skus(
    text: string,
    to: Hand,
    title: string,
    onRefused: OnRefused,
    then: (answer: Schemas["SkusOut"]) => void,
  ) {
    consider(title, noun, key, { text, to }, async () => {
      const answer = await save(
        () => data(client.POST(`${address}/skus` as "/api/collections/{key}/skus", { ...path, body: { text, to } })),
        { noun, onRefused },
      );
      if (answer) then(answer);
    });
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

import { client, data, type Refused, type Schemas } from "../../api/client";
import type { Things } from "../../app/nouns";
import { useSaving } from "../../app/saving";
import { useThing } from "../../app/things";

type Collection = Things["collection"];
export type Hand = Schemas["HandIn"]["to"];
type Told = (refused: Refused) => void;

/** A collection and the ways to write it: its members as of any thing, and what is its own. */
export function useCollection(row: Collection) {
  const { save, latest } = useSaving();
  const thing = useThing("collection", row);
  const { key } = row.thing;
  const path = { params: { path: { key } } };
  const keep = (answer: unknown) => {
    latest.set(`collection/${key}`, answer);
    return answer;
  };

  /** Put products in by hand, keep them out, or leave them to the condition. */
  function hand(ids: number[], to: Hand, done?: string) {
    return save(
      async () => keep(await data(client.POST("/api/collections/{key}/hands", { ...path, body: { ids, to } }))),
      {
        noun: "collection",
        done,
      },
    );
  }
  /** The same for a pasted list of SKUs; gives what was found and what was not. */
  function skus(text: string, to: Hand, onRefused: Told) {
    return save(() => data(client.POST("/api/collections/{key}/skus", { ...path, body: { text, to } })), {
      noun: "collection",
      onRefused,
    });
  }
  /** Have products gathered whose job was stopped or lost. */
  function gather() {
    return save(async () => keep(await data(client.POST("/api/collections/{key}/gather", path))), {
      noun: "collection",
    });
  }
  return { ...thing, hand, skus, gather };
}

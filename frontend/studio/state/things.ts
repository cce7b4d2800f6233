import { client, data, type Refused, type Schemas } from "../api/client";
import { NOUNS, type NounCode, type Things } from "../api/nouns";
import { useSaving } from "./saving";

type Thing<N extends NounCode> = Things[N]["thing"];
export type Changes<N extends NounCode> = Partial<Omit<Thing<N>, "key">>;
export type PutOptions = { done?: string; onRefused?: (refused: Refused) => void };

/** Make a thing of a noun from its name, and what else was chosen; gives its key. */
export async function makeThing<N extends NounCode>(noun: N, name: string, more: Changes<N> = {}): Promise<string> {
  const made = await data(
    client.POST(`/api/${NOUNS[noun].plural}` as "/api/fields", {
      body: { ...more, name } as Schemas["FieldNew"],
    }),
  );
  return made.thing.key;
}

/**
 * One thing of a noun, and the ways to write it. Writes go out one after the other, each from the version and the state
 * of the last answer: what was typed while an earlier write was under way is never held against oneself.
 */
export function useThing<N extends NounCode>(noun: N, row: Things[N]) {
  const { save, latest } = useSaving();
  const { key } = row.thing;
  const id = `${noun}/${key}`;
  const known = latest.get(id) as Things[N] | undefined;
  if (!known || known.version < row.version) latest.set(id, row);
  const current = () => latest.get(id) as Things[N];
  const address = `/api/${NOUNS[noun].plural}/{key}` as "/api/fields/{key}";

  async function write(changes: Changes<N> | ((thing: Thing<N>) => Changes<N>), version?: number) {
    const now = current();
    const made = typeof changes === "function" ? changes(now.thing as Thing<N>) : changes;
    const body = { ...made, version: version ?? now.version } as Schemas["FieldPatch"];
    try {
      const answer = (await data(client.PATCH(address, { params: { path: { key } }, body }))) as unknown as Things[N];
      latest.set(id, answer);
      return answer;
    } catch (error) {
      // What stands is where one goes on from: yours is written over that, and nothing else of it is lost.
      const { problem } = error as Refused;
      if (problem?.code === "clash" && problem.theirs && problem.version)
        latest.set(id, { ...now, thing: problem.theirs, version: problem.version });
      throw error;
    }
  }

  /** Change members: as given, or worked out from the thing as it stands when their turn comes. */
  function put(changes: Changes<N> | ((thing: Thing<N>) => Changes<N>), options: PutOptions = {}) {
    return save(() => write(changes), { noun, over: (version) => write(changes, version), ...options });
  }

  /** Take the thing away, at the version last heard of. */
  function remove() {
    return data(client.DELETE(address, { params: { path: { key }, query: { version: current().version } } }));
  }
  return { put, remove, current };
}

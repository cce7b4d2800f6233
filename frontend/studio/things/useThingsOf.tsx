import { client, data, type Schemas } from "../api/client";
import { NOUNS, type NounCode, type Things } from "../api/nouns";
import { useConsider } from "../considering/Considering";
import { useSaving } from "../state/saving";
import type { Changes } from "../state/things";

/** Write any thing of a noun from elsewhere, after telling what it touches: a set given to a type, a field put in a set. */
export function useThingsOf<N extends NounCode>(noun: N) {
  const { save, latest } = useSaving();
  const consider = useConsider();
  function put(row: Things[N], changesOf: (thing: Things[N]["thing"]) => Changes<N>, title: string) {
    const { key } = row.thing;
    const id = `${noun}/${key}`;
    const now = () => {
      const known = latest.get(id) as Things[N] | undefined;
      return known && known.version > row.version ? known : row;
    };
    const address = `/api/${NOUNS[noun].plural}/{key}` as "/api/fields/{key}";
    const write = async (version?: number) => {
      const current = now();
      const body = { ...changesOf(current.thing), version: version ?? current.version } as Schemas["FieldPatch"];
      const answer = await data(client.PATCH(address, { params: { path: { key } }, body }));
      latest.set(id, answer);
      return answer;
    };
    return consider(
      title,
      () => ({ noun, key, changes: changesOf(now().thing) }),
      () => void save(() => write(), { noun, over: write, done: title }),
    );
  }
  return { put };
}

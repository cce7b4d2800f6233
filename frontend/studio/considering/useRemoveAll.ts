import { client, data } from "../api/client";
import { useSaving } from "../state/saving";
import { counted } from "../ui/basics";
import { useConsidering } from "./Considering";

/** A thing as it was read. */
type Read = { noun: string; key: string; name: string; version: number };

/** Removing several things in one stroke that is undone as one: told with what it touches where pages would differ. */
export function useRemoveAll() {
  const { save } = useSaving();
  const consider = useConsidering();
  return (things: readonly Read[], what: string, then: () => void) => {
    const [first] = things;
    const title = things.length === 1 && first ? `Remove ${first.name}` : `Remove ${counted(things.length, what)}`;
    const body = { things: things.map(({ noun, key, version }) => ({ noun, key, version })) };
    consider(
      title,
      `removal/${things.map(({ noun, key }) => `${noun}/${key}`).join()}`,
      (signal) => data(client.POST("/api/removal/consequences", { body, signal })),
      async () => {
        const done = `${things.length === 1 && first ? first.name : counted(things.length, what)} removed`;
        if (await save(() => data(client.POST("/api/removal", { body })), { done })) then();
      },
    );
  };
}

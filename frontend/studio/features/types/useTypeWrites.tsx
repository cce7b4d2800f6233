import { useState } from "react";
import { client, data, type Schemas } from "../../api/client";
import { useSaving } from "../../app/saving";
import { consequencesOf, useConsequences } from "../Consequences";

type Patch = Partial<Omit<Schemas["TypePatch"], "version">>;

/** Writing a type: at once, or after telling what it touches. */
export function useTypeWrites(at: Schemas["TypeOut"]) {
  const { save } = useSaving();
  const [dialog, consider] = useConsequences();
  const [wrong, setWrong] = useState<{ where: string; text: string } | null>(null);
  const write = (changes: Patch) => (version: number) =>
    data(
      client.PATCH("/api/types/{key}", {
        params: { path: { key: at.type.key } },
        body: { ...changes, version } as Schemas["TypePatch"],
      }),
    );
  const put = (changes: Patch, done?: string) =>
    save(() => write(changes)(at.version), {
      over: write(changes),
      done,
      onRefused: ({ problem }) =>
        setWrong({ where: String(problem.where[0] ?? ""), text: `${problem.message}. ${problem.help}` }),
    }).then((got) => got && setWrong(null));
  const putTold = (changes: Patch, title: string) =>
    consider(
      title,
      () => consequencesOf("types", at.type.key, changes),
      () => void put(changes, title),
    );
  return { put, putTold, dialog, wrong };
}

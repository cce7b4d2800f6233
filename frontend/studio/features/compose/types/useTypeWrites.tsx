import { useState } from "react";
import type { Things } from "../../../api/nouns";
import { useConsider } from "../../../considering/Considering";
import { type Changes, useThing } from "../../../state/things";

type Thing = Things["product_type"]["thing"];
type Made = Changes<"product_type"> | ((thing: Thing) => Changes<"product_type">);

/** Writing a type: at once, or after telling what it touches. */
export function useTypeWrites(row: Things["product_type"]) {
  const { put: write, remove, current } = useThing("product_type", row);
  const consider = useConsider();
  const [wrong, setWrong] = useState<{ where: string; text: string } | null>(null);
  const put = (changes: Made, done?: string) =>
    write(changes, {
      done,
      onRefused: ({ problem }) =>
        setWrong({ where: String(problem.where[0] ?? ""), text: `${problem.message}. ${problem.help}` }),
    }).then((answer) => answer && setWrong(null));
  const putTold = (changes: Made, title: string) =>
    consider(
      title,
      () => ({
        noun: "product_type",
        key: row.thing.key,
        changes: typeof changes === "function" ? changes(current().thing) : changes,
      }),
      () => void put(changes, title),
    );
  return { put, putTold, remove, wrong };
}

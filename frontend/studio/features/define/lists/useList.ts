import { useState } from "react";
import type { Schemas } from "../../../api/client";
import type { Things } from "../../../api/nouns";
import { useConsider } from "../../../considering/Considering";
import { useThing } from "../../../state/things";
import type { ValueChanges } from "../../../values/ValueDetails";

type Value = Schemas["ListValue"];

/** Writing a list: one value, or several in one stroke; `wrong` is what was refused last, and of which value. */
export function useList(row: Things["value_list"]) {
  const { put: write, current } = useThing("value_list", row);
  const [wrong, setWrong] = useState<{ code: string | null; text: string } | null>(null);
  const consider = useConsider();
  const put = (changes: Parameters<typeof write>[0]) =>
    write(changes, {
      onRefused: ({ problem }) => {
        const at = problem.where[0] === "values" ? problem.where[1] : undefined;
        const code = typeof at === "number" ? (current().thing.values[at]?.code ?? null) : (at ?? null);
        setWrong({ code, text: `${problem.message}. ${problem.help}` });
      },
    }).then((answer) => answer && setWrong(null));
  const change = (code: string, changes: ValueChanges) =>
    put((thing) => ({
      values: thing.values.map((value) =>
        value.code === code ? { ...value, ...(typeof changes === "function" ? changes(value) : changes) } : value,
      ),
    }));
  /** Told with what it touches where pages would differ. */
  function changeAll(title: string, from: (values: readonly Value[]) => Value[], done: () => void) {
    consider(
      title,
      () => ({ noun: "value_list", key: row.thing.key, changes: { values: from(current().thing.values) } }),
      () => {
        void put((thing) => ({ values: from(thing.values) }));
        done();
      },
    );
  }
  return { wrong, setWrong, put, current, change, changeAll };
}

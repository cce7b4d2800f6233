import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { client, data, type Schemas } from "../../../api/client";
import type { Things } from "../../../api/nouns";
import { ask } from "../../../api/queries";
import { useConsider } from "../../../considering/Considering";
import { useSaving } from "../../../state/saving";
import { type Changes, useThing } from "../../../state/things";
import { NO_SWATCH } from "../../../ui/SwatchMark";

export type OptionSet = Schemas["OptionSet"];
export type Option = Schemas["Option"];
export type OptionValue = Schemas["OptionValue"];
export type Effect = Schemas["Effect"];
export type Figure = "price" | "weight" | "cost";
export type Wrong = { where: readonly (string | number)[]; text: string };
type Change = (now: OptionSet) => Changes<"option_set">;
/** Options with one of them changed as it stands then. */
export type PutOption = (key: string, change: (now: Option) => Partial<Option>, title: string) => void;

/** An option set and the ways to write it. Of a set that products have, what follows is told before. */
export function useOptionSet(row: Things["option_set"]) {
  const { save } = useSaving();
  const queries = useQueryClient();
  const { put: write, current, remove } = useThing("option_set", row);
  const consider = useConsider();
  const [wrong, setWrong] = useState<Wrong | null>(null);
  const { key } = row.thing;

  function send(change: Change, title: string) {
    return write(change, {
      done: title,
      onRefused: ({ problem }) => setWrong({ where: problem.where, text: `${problem.message}. ${problem.help}` }),
    }).then((answer) => answer && setWrong(null));
  }
  function put(change: Change, title: string) {
    if (row.products === 0) return void send(change, title);
    consider(
      title,
      () => ({ noun: "option_set", key, changes: change(current().thing) }),
      () => void send(change, title),
    );
  }
  const putOption: PutOption = (option, change, title) =>
    put(
      ({ options = [] }) => ({
        options: options.map((other) => (other.key === option ? { ...other, ...change(other) } : other)),
      }),
      title,
    );
  /** Names, codes and colours as values of an option; gives what was skipped. */
  function paste(option: string, text: string) {
    return save(
      () =>
        data(
          client.POST("/api/option_sets/{key}/paste", {
            params: { path: { key } },
            body: { option, text, version: current().version, apply: true },
          }),
        ),
      {
        noun: "option_set",
        onRefused: ({ problem }) =>
          setWrong({ where: ["options", option], text: `${problem.message}. ${problem.help}` }),
      },
    );
  }
  /** The stock a value has of its own. */
  function putStock(option: string, code: string, amount: number | null) {
    const asked = ask.things("option_set").queryKey;
    const write = async () => {
      const rows = (queries.getQueryData(asked) ?? [row]) as Things["option_set"][];
      const now = rows.find((other) => other.thing.key === key) ?? row;
      const expected = now.stocks[option]?.[code] ?? null;
      const answer = await data(
        client.PUT("/api/option_sets/{key}/stock", {
          params: { path: { key } },
          body: { option, code, expected, amount },
        }),
      );
      // What a write answered stands: the next goes on from its stock.
      await queries.cancelQueries({ queryKey: asked });
      queries.setQueryData(
        asked,
        rows.map((other) => (other.thing.key === key ? answer : other)),
      );
      return answer;
    };
    return save(write, {
      noun: "option_set",
      onRefused: ({ problem }) => setWrong({ where: ["options", option], text: `${problem.message}. ${problem.help}` }),
    });
  }
  return { put, putOption, paste, putStock, remove, current, wrong };
}

/** A key made of a name, that none of those taken is. */
export function keyOf(name: string, taken: ReadonlySet<string>): string {
  const plain = name
    .normalize("NFKD")
    .toLowerCase()
    .replace(/[^a-z0-9]+/g, "_")
    .replace(/^_+|_+$/g, "")
    .slice(0, 40);
  const base = /^[a-z]/.test(plain) ? plain : `o_${plain || "option"}`;
  let key = base;
  for (let number = 2; taken.has(key); number += 1) key = `${base}_${number}`;
  return key;
}

/** Whether options of a kind make variants. */
export function useMakers(): (kind: string) => boolean {
  const kinds = useQuery(ask.meta()).data?.option_kinds ?? [];
  return (kind) => kinds.some((known) => known.code === kind && known.makes_variants);
}

/** What does nothing. */
export const NO_EFFECT: Effect = { price: null, weight: null, cost: null, sku: "" };

/** A value that does nothing yet; without a label, one of a value list. */
export function newValue(code: string, label = ""): OptionValue {
  return { code, label, swatch: NO_SWATCH, effect: NO_EFFECT };
}

/** What a choice does, with one figure as it is typed; the server reads it. */
export function typed(effect: Effect | undefined, figure: Figure, text: string): Effect {
  const amount = text.trim() ? { mode: "typed" as const, value: text, charge: "each" as const } : null;
  return { ...NO_EFFECT, ...effect, [figure]: amount };
}

import { useQuery } from "@tanstack/react-query";
import type { Schemas } from "../api/client";
import { ask } from "../api/queries";

/** The values a field takes from. */
export function useChoices(field: Schemas["Field"]): Schemas["ListValue"][] {
  const lists = useQuery(ask.things("value_list")).data;
  return lists?.find((row) => row.thing.key === field.options.list)?.thing.values ?? [];
}

/** More choices than one looks through: they are searched while typing. */
const LONG = 25;

export function isLong(choices: readonly unknown[]): boolean {
  return choices.length > LONG;
}

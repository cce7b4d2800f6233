import { useEffect, useState } from "react";

/** Which of the rows of a list is at hand: the first of what is found, whenever that is another, until one goes elsewhere. */
export function useFirst(first: string | undefined, words: string): [string, (id: string) => void] {
  const [selected, setSelected] = useState("");
  // biome-ignore lint/correctness/useExhaustiveDependencies: what is looked for by other words begins anew
  useEffect(() => setSelected(first ?? ""), [first, words]);
  return [selected, setSelected];
}

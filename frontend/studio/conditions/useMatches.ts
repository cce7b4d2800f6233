import { useEffect, useState } from "react";
import { client, data, Refused, type Schemas } from "../api/client";
import { type Asked, type Group, toTree } from "./tree";

type Member = Schemas["MemberOut"];
export type Found = { count: number; fresh: number; leaving: number; first: Member[]; done: boolean; words: string };
export type Look = { found: Found | null; wrong: ReadonlyMap<string, string>; whole: boolean };

const PAUSE = 300;
const NONE: ReadonlyMap<string, string> = new Map();
const NOTHING: Look = { found: null, wrong: NONE, whole: false };

/**
 * Who meets a condition while it is being made: asked for in slices, so that the first are there at once and the number
 * grows until all were looked at. What can't be read is told by the test it stands in.
 */
export function useMatches(group: Group, fields: readonly Asked[], collection: string | null, asking: boolean): Look {
  const [look, setLook] = useState(NOTHING);
  const { tree, places, count } = toTree(group, fields);
  const asked = JSON.stringify(tree);
  const known = JSON.stringify([...places]);
  useEffect(() => {
    if (!asking || count === 0) {
      setLook(NOTHING);
      return;
    }
    let stale = false;
    setLook((old) => ({ ...old, whole: false }));
    const timer = setTimeout(async () => {
      let sum: Found = { count: 0, fresh: 0, leaving: 0, first: [], done: false, words: "" };
      let after: number | null = 0;
      try {
        while (after !== null && !stale) {
          const slice: Schemas["MatchesOut"] = await data(
            client.POST("/api/conditions/matches", { body: { condition: JSON.parse(asked), collection, after } }),
          );
          after = slice.next;
          sum = {
            count: sum.count + slice.count,
            fresh: sum.fresh + slice.fresh,
            leaving: sum.leaving + slice.leaving,
            first: [...sum.first, ...slice.first].slice(0, 12),
            done: after === null,
            words: slice.words,
          };
          if (!stale) setLook({ found: sum, wrong: NONE, whole: true });
        }
      } catch (error) {
        if (!(error instanceof Refused)) throw error;
        if (!stale) setLook({ found: null, wrong: wrongIn(error, new Map(JSON.parse(known))), whole: false });
      }
    }, PAUSE);
    return () => {
      stale = true;
      clearTimeout(timer);
    };
  }, [asked, known, collection, asking, count]);
  return look;
}

/** A refusal at the test it is about: its place begins with where that test stands. */
export function wrongIn({ problem }: Refused, places: Map<string, string>): ReadonlyMap<string, string> {
  const words = `${problem.message}. ${problem.help}`;
  for (let length = problem.where.length; length >= 0; length -= 1) {
    const id = places.get(JSON.stringify(problem.where.slice(0, length)));
    if (id) return new Map([[id, words]]);
  }
  return new Map([["", words]]);
}

import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { Link } from "react-router";
import { client, data, type Schemas } from "../api/client";
import { NOUNS, type NounCode, placeOf } from "../api/nouns";
import { ask } from "../api/queries";
import { counted } from "../ui/basics";
import { number } from "../ui/locale";
import { useGrowing } from "../ui/useGrowing";
import { differs } from "./VariantLines";

/** What a change touches; where stored values are not all looked at yet, how to look on. */
export type Touched = Schemas["ConsequencesOut"] & { more?: () => Promise<Touched> };
type Effects = Schemas["ValueEffectsOut"];
type Surface = Pick<Schemas["SurfaceOut"], "code" | "counted">;

/** A change of a thing that is not made yet. */
export type Wanted = { noun: NounCode; key: string; changes: Record<string, unknown>; remove?: boolean };

/** Ask what a change would touch, without making it. */
export async function consequencesOf(wanted: Wanted, signal?: AbortSignal): Promise<Touched> {
  const { noun, key, changes, remove = false } = wanted;
  const address = `/api/${NOUNS[noun].plural}/{key}/consequences` as "/api/fields/{key}/consequences";
  const found = await data(client.POST(address, { params: { path: { key } }, body: { changes, remove }, signal }));
  return lookingOn(found, wanted, signal);
}

/** Products that would be put in by hand or kept out, or the pasted SKUs of some. */
export type Hands = Partial<Schemas["HandsAskedIn"]> & Pick<Schemas["HandsAskedIn"], "to">;

/** Ask what it would touch to put products into a thing by hand, or to keep them out. */
export async function consequencesOfHands(
  noun: "collection" | "option_set",
  key: string,
  hands: Hands,
  signal?: AbortSignal,
): Promise<Touched> {
  const address = `/api/${NOUNS[noun].plural}/{key}/hands/consequences` as "/api/collections/{key}/hands/consequences";
  return data(client.POST(address, { params: { path: { key } }, body: hands as Schemas["HandsAskedIn"], signal }));
}

/** What was found, and how to look on at the values after it. */
function lookingOn(found: Touched, wanted: Wanted, signal?: AbortSignal): Touched {
  const { noun, key, changes } = wanted;
  const after = found.effects?.next;
  if (!after) return found;
  const address = `/api/${NOUNS[noun].plural}/{key}/effects` as "/api/fields/{key}/effects";
  const more = async () => {
    const body = { changes, after };
    const effects = await data(client.POST(address, { params: { path: { key } }, body, signal }));
    return lookingOn({ ...found, effects: summed(found.effects as Effects, effects) }, wanted, signal);
  };
  return { ...found, more };
}

/** Whether anything is another after a change: pages, values, variants, or values that come and go with their fields. */
export function matters(touched: Touched): boolean {
  const moved = [...touched.moves.gone, ...touched.moves.come].some(({ values }) => values > 0);
  const documents = Object.values(touched.surfaces).some((count) => count > 0);
  return documents || moved || affected(touched.effects) > 0 || differs(touched.variants);
}

/** What was found so far with what was found on looking on. */
function summed(so: Effects, far: Effects): Effects {
  return {
    values: so.values + far.values,
    wrong: so.wrong + far.wrong,
    changed: so.changed + far.changed,
    lost: so.lost + far.lost,
    examples: [...so.examples, ...far.examples],
    next: far.next,
  };
}

/** How many values would not stay as they are. */
export function affected(effects: Effects | null): number {
  return effects ? effects.wrong + effects.changed + effects.lost : 0;
}

/** `3 pages, 2 cards`: documents of surfaces, in the words each has for its own; the first alone when there are none. */
export function documentWords(counts: Record<string, number>, surfaces: readonly Surface[]): string {
  const known = surfaces.filter((surface) => surface.counted.length > 0 && surface.code in counts);
  const touched = known.filter(({ code }) => counts[code]);
  return (touched.length > 0 ? touched : known.slice(0, 1))
    .map(({ code, counted: words }) => counted(counts[code] ?? 0, words[0] ?? "", words[1]))
    .join(", ");
}

/** The same with the words of the shop's surfaces; `at most 3 pages` where they were not counted one by one. */
export function useDocumentWords(): (counts: Record<string, number>, exact?: boolean) => string {
  const surfaces = useQuery(ask.meta()).data?.surfaces ?? [];
  return (counts, exact = true) => `${exact ? "" : "at most "}${documentWords(counts, surfaces)}`;
}

/** What a change touches, in a line. */
export function touchedWords(touched: Touched, surfaces: readonly Surface[]): string {
  const documents = Object.values(touched.surfaces).some(Boolean) ? documentWords(touched.surfaces, surfaces) : "";
  const what = `${counted(touched.types, "type")}, ${counted(touched.products, "product")}`;
  return documents
    ? `${what}: ${touched.exact ? "" : "at most "}${documents} will differ`
    : `${what}: no page or card will differ`;
}

/** The fields that products lose and get, and what becomes of their values. */
export function MovesLines({ moves }: { moves: Schemas["FieldMovesOut"] }) {
  return (
    <>
      {moves.gone.length > 0 && (
        <p className="mt-1">
          Products lose {named(moves.gone, "kept aside")}. No value is dropped: each is back when its field is.
        </p>
      )}
      {moves.come.length > 0 && <p className="mt-1">Products get {named(moves.come, "back from before")}.</p>}
    </>
  );
}

function named(moves: readonly Schemas["FieldMoveOut"][], what: string): string {
  const named = moves
    .slice(0, FIRST)
    .map(({ name, values }) => (values > 0 ? `${name} (${counted(values, "value")} ${what})` : name));
  const rest = moves.length - named.length;
  return named.join(", ") + (rest > 0 ? ` and ${counted(rest, "more field")}` : "");
}

/** What becomes of stored values, with examples, and every one of them on asking. */
export function EffectsLines({ effects }: { effects: Effects }) {
  const [all, setAll] = useState(false);
  const [shown, end] = useGrowing(all ? effects.examples.length : 0);
  const examples = effects.examples.slice(0, all ? shown : FIRST);
  if (affected(effects) === 0)
    return effects.values === 0 ? null : (
      <p className="mt-1">
        {effects.values === 1
          ? "The one value stays as it is."
          : `All ${number(effects.values)} values stay as they are.`}
      </p>
    );
  const parts = [
    effects.wrong > 0 && `${number(effects.wrong)} would be wrong, and stay, marked, until someone mends them`,
    effects.changed > 0 && `${number(effects.changed)} would change`,
    effects.lost > 0 &&
      `${number(effects.lost)} can't be taken over: they are kept aside as typed, and come back by undoing`,
  ].filter(Boolean);
  return (
    <>
      <p className="mt-1">
        Of {counted(effects.values, "value")} {parts.join("; ")}.
      </p>
      <ul className={`mt-1 ${all ? "scroll max-h-60" : ""}`}>
        {examples.map((example) => (
          <li key={`${example.noun} ${example.key} ${example.field}`} className="truncate">
            <Link className="link" to={placeOf(example.noun, example.key)}>
              {example.name}
            </Link>
            : {example.before} → {example.how === "changed" ? example.after : <em>{example.after}</em>}
          </li>
        ))}
      </ul>
      <div ref={end} />
      {!all && effects.examples.length > FIRST && (
        <button type="button" className="link mt-1" onClick={() => setAll(true)}>
          All {number(effects.examples.length)} of them
        </button>
      )}
    </>
  );
}

const FIRST = 5;

import { useQuery } from "@tanstack/react-query";
import { useRef, useState } from "react";
import { Link } from "react-router";
import { client, data, Refused, type Schemas } from "../api/client";
import { ask } from "../api/queries";
import { NOUNS, type NounCode } from "../app/nouns";
import { Button, counted, Dialog } from "../ui/basics";

/** What a change touches; where stored values are not all looked at yet, how to look on. */
export type Touched = Schemas["ConsequencesOut"] & { more?: () => Promise<Touched> };
type Surface = Pick<Schemas["SurfaceOut"], "code" | "counted">;

/** Ask what a change would touch, without making it. */
export async function consequencesOf(
  noun: NounCode,
  key: string,
  changes: Record<string, unknown>,
  remove = false,
  after = 0,
): Promise<Touched> {
  const address = `/api/${NOUNS[noun].plural}/{key}/consequences` as "/api/fields/{key}/consequences";
  const found = await data(client.POST(address, { params: { path: { key } }, body: { changes, remove, after } }));
  const next = found.breaches?.next;
  return next ? { ...found, more: () => consequencesOf(noun, key, changes, remove, next) } : found;
}

/** What was found so far with what was found on looking on. */
function summed(so: Touched, far: Touched): Touched {
  if (!so.breaches || !far.breaches) return far;
  return {
    ...far,
    breaches: {
      ...far.breaches,
      values: so.breaches.values + far.breaches.values,
      wrong: so.breaches.wrong + far.breaches.wrong,
      examples: [...so.breaches.examples, ...far.breaches.examples].slice(0, 5),
    },
  };
}

/** `3 pages, 2 cards`: documents of surfaces, in the words each has for its own; the first alone when there are none. */
export function documentWords(counts: Record<string, number>, surfaces: readonly Surface[]): string {
  const known = surfaces.filter((surface) => surface.counted.length > 0 && surface.code in counts);
  const touched = known.filter(({ code }) => counts[code]);
  return (touched.length > 0 ? touched : known.slice(0, 1))
    .map(({ code, counted: words }) => counted(counts[code] ?? 0, words[0] ?? "", words[1]))
    .join(", ");
}

/** The same with the words of the shop's surfaces. */
export function useDocumentWords(): (counts: Record<string, number>) => string {
  const surfaces = useQuery(ask.meta()).data?.surfaces ?? [];
  return (counts) => documentWords(counts, surfaces);
}

/** What a change touches, in a line. */
export function touchedWords(touched: Touched, surfaces: readonly Surface[]): string {
  const documents = documentWords(touched.surfaces, surfaces);
  const what = `${counted(touched.types, "type")}, ${counted(touched.products, "product")}`;
  return documents ? `${what}: ${documents} will differ` : what;
}

/** `failed` says why nobody knows what it touches. */
type Asked = { title: string; touched: Touched | null; failed: string; ask: () => Promise<Touched>; go: () => void };

/** Shows what a risky change touches and lets the user go on or leave it; small ones go on at once. */
export function useConsequences(): [
  React.ReactNode,
  (title: string, ask: () => Promise<Touched>, go: () => void) => Promise<void>,
] {
  const [asked, setAsked] = useState<Asked | null>(null);
  const surfaces = useQuery(ask.meta()).data?.surfaces ?? [];
  const turn = useRef(0);
  async function consider(title: string, find: () => Promise<Touched>, go: () => void) {
    turn.current += 1;
    const mine = turn.current;
    try {
      let touched = await find();
      setAsked(null);
      if (touched.products === 0 && !touched.breaches?.wrong) go();
      else setAsked({ title, touched, failed: "", ask: find, go });
      while (touched.more && turn.current === mine) {
        touched = summed(touched, await touched.more());
        const told = touched;
        setAsked((old) => (old && turn.current === mine ? { ...old, touched: told } : old));
      }
    } catch (error) {
      if (!(error instanceof Refused)) throw error;
      const { problem, status } = error;
      // What the change itself is refused for is said where it stands; what hinders the asking is said here.
      if (status === 0 || status >= 500) setAsked({ title, touched: null, failed: problem.message, ask: find, go });
      else go();
    }
  }
  function leave() {
    turn.current += 1;
    setAsked(null);
  }
  const dialog = asked && (
    <Dialog
      open
      onClose={leave}
      title={asked.title}
      note="Nothing is changed yet, and shoppers see nothing before a release."
    >
      {asked.touched ? (
        <p>{touchedWords(asked.touched, surfaces)}.</p>
      ) : (
        <p className="wrongly" role="alert">
          What it touches could not be found out: {asked.failed}. It can be changed all the same.
        </p>
      )}
      {asked.touched?.breaches && <BreachesLine breaches={asked.touched.breaches} />}
      {asked.touched?.more && <p className="hint">Looking on…</p>}
      <div className="mt-4 flex justify-end gap-2">
        <Button onClick={leave}>Leave it</Button>
        {!asked.touched && <Button onClick={() => void consider(asked.title, asked.ask, asked.go)}>Ask again</Button>}
        <Button
          look="primary"
          onClick={() => {
            asked.go();
            leave();
          }}
        >
          Change it
        </Button>
      </div>
    </Dialog>
  );
  return [dialog, consider];
}

/** Values that would fall outside a limit, with some of the products. */
export function BreachesLine({ breaches }: { breaches: NonNullable<Touched["breaches"]> }) {
  if (breaches.wrong === 0)
    return <p className="mt-1">All {counted(breaches.values, "value")} keep within the limits.</p>;
  return (
    <p className="mt-1">
      {breaches.wrong} of {counted(breaches.values, "value")} {breaches.wrong === 1 ? "falls" : "fall"} outside:{" "}
      {breaches.examples.map((product, index) => (
        <span key={product.id}>
          {index > 0 && ", "}
          <Link className="link" to={`/fill/products/${product.id}`}>
            {product.title}
          </Link>
        </span>
      ))}
      {breaches.wrong > breaches.examples.length && " and others"}. They stay, marked, until someone mends them.
    </p>
  );
}

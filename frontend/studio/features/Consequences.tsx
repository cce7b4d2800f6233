import { useState } from "react";
import { Link } from "react-router";
import { client, data, type Refused, type Schemas } from "../api/client";
import { Button, counted, Dialog } from "../ui/basics";

export type Touched = Schemas["ConsequencesOut"];
type Nouns = "fields" | "lists" | "sets" | "types";

/** Ask what a change would touch, without making it. */
export function consequencesOf(
  nouns: Nouns,
  key: string,
  changes: Record<string, unknown>,
  remove = false,
): Promise<Touched> {
  return data(
    client.POST("/api/{nouns}/{key}/consequences", { params: { path: { nouns, key } }, body: { changes, remove } }),
  );
}

/** What a change touches, in a line. */
export function touchedWords(touched: Touched): string {
  return `${counted(touched.types, "type")}, ${counted(touched.products, "product")}: ${counted(touched.pages, "page")} and ${counted(touched.cards, "card")} will differ`;
}

type Asked = { title: string; touched: Touched; go: () => void };

/** Shows what a risky change touches and lets the user go on or leave it; small ones go on at once. */
export function useConsequences(): [
  React.ReactNode,
  (title: string, ask: () => Promise<Touched>, go: () => void) => Promise<void>,
] {
  const [asked, setAsked] = useState<Asked | null>(null);
  async function consider(title: string, ask: () => Promise<Touched>, go: () => void) {
    try {
      const touched = await ask();
      if (touched.products === 0 && !touched.outside?.wrong) go();
      else setAsked({ title, touched, go });
    } catch (error) {
      if (!(error as Refused).problem) throw error;
      go();
    }
  }
  const dialog = asked && (
    <Dialog
      open
      onClose={() => setAsked(null)}
      title={asked.title}
      note="Nothing is changed yet, and shoppers see nothing before a release."
    >
      <p>{touchedWords(asked.touched)}.</p>
      {asked.touched.outside && <OutsideLine outside={asked.touched.outside} />}
      <div className="mt-4 flex justify-end gap-2">
        <Button onClick={() => setAsked(null)}>Leave it</Button>
        <Button
          look="primary"
          onClick={() => {
            asked.go();
            setAsked(null);
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
export function OutsideLine({ outside }: { outside: NonNullable<Touched["outside"]> }) {
  if (outside.wrong === 0)
    return <p className="mt-1">All {counted(outside.values, "value")} keep within the limits.</p>;
  return (
    <p className="mt-1">
      {outside.wrong} of {counted(outside.values, "value")} {outside.wrong === 1 ? "falls" : "fall"} outside:{" "}
      {outside.examples.map((one, place) => (
        <span key={one.id}>
          {place > 0 && ", "}
          <Link className="link" to={`/fill/products/${one.id}`}>
            {one.title}
          </Link>
        </span>
      ))}
      {outside.wrong > outside.examples.length && " and others"}. They stay, marked, until someone mends them.
    </p>
  );
}

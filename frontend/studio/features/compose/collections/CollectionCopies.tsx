import { useQuery } from "@tanstack/react-query";
import { Link } from "react-router";
import { placeOf, type Things } from "../../../api/nouns";
import { ask } from "../../../api/queries";
import { useConsider } from "../../../considering/Considering";
import { OwnWords } from "../../../kinds/OwnWords";
import { useThing } from "../../../state/things";

/** The shared copies that products of a collection may show, each with a tick for words of the collection's own. */
export function CollectionCopies({ row }: { row: Things["collection"] }) {
  const copies = useQuery(ask.things("shared_copy")).data ?? [];
  if (copies.length === 0) return null;
  return (
    <section className="mt-5">
      <h3>Shared copy on its products</h3>
      {copies.map((copy) => (
        <CopyHere key={copy.thing.key} copy={copy} collection={row.thing} />
      ))}
    </section>
  );
}

type Props = { copy: Things["shared_copy"]; collection: Things["collection"]["thing"] };

function CopyHere({ copy, collection }: Props) {
  const { thing } = copy;
  const { put } = useThing("shared_copy", copy);
  const own = thing.own?.[collection.key] ?? null;
  const places = useQuery({ ...ask.ownWords(thing.key), enabled: own !== null }).data?.places;
  const consider = useConsider();
  const next = (now: Record<string, string>, html: string | null) => {
    const { [collection.key]: _, ...rest } = now;
    return { own: html === null ? rest : { ...rest, [collection.key]: html } };
  };
  return (
    <div className="mt-2">
      <Link className="link" to={placeOf("shared_copy", thing.key)}>
        {thing.name}
      </Link>
      <OwnWords
        label={thing.name}
        standing={{ html: thing.words ?? "", text: textOf(thing.words ?? ""), source: "the shared words" }}
        own={own}
        differs={places?.find(({ key }) => key === collection.key)?.differs ?? []}
        onPut={(html) =>
          consider(
            `Change ${thing.name} for ${collection.name}`,
            { noun: "shared_copy", key: thing.key, changes: next(thing.own ?? {}, html) },
            () => void put((now) => next(now.own ?? {}, html)),
          )
        }
      />
    </div>
  );
}

/** Clean HTML as text, a line a paragraph. */
function textOf(html: string): string {
  const page = new DOMParser().parseFromString(html.replaceAll(/<\/(p|li|h[1-6]|blockquote)>/g, "$&\n"), "text/html");
  return page.body.textContent?.trim() ?? "";
}

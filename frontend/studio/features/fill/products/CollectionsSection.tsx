import { useQuery } from "@tanstack/react-query";
import { Link } from "react-router";
import { client, data, type Schemas } from "../../../api/client";
import { placeOf } from "../../../api/nouns";
import { ask } from "../../../api/queries";
import { useConsiderHands } from "../../../considering/Considering";
import { useSaving } from "../../../state/saving";
import { Picker } from "../../../things/FieldPicker";
import { Button } from "../../../ui/basics";

type Place = Schemas["PlaceOut"];
type Hand = Schemas["HandIn"]["to"];
const HOW: Record<string, string> = {
  picked: "put in by hand",
  matches: "by its condition",
  "kept out": "kept out by hand",
};

/** The collections a product is in, how it got in, and ways to put it in or keep it out. */
export function CollectionsSection({ product }: { product: Schemas["ProductOut"] }) {
  const { save } = useSaving();
  const consider = useConsiderHands();
  const all = useQuery(ask.things("collection")).data ?? [];
  const collections = product.collections.filter((collection) => collection.how !== null || collection.inside);
  function hand(key: string, to: Hand, done: string) {
    const body = { ids: [product.id], to };
    consider(done, "collection", key, body, () =>
      save(() => data(client.POST("/api/collections/{key}/hands", { params: { path: { key } }, body })), {
        noun: "collection",
        done,
      }),
    );
  }
  const way = (collection: Place): [string, Hand, string] =>
    collection.how === "picked"
      ? ["Take out", "neither", `${product.title} is no longer put into ${collection.name} by hand`]
      : collection.how === "kept out"
        ? ["Let in again", "neither", `${product.title} is no longer kept out of ${collection.name}`]
        : ["Keep out", "kept_out", `${product.title} is kept out of ${collection.name}`];
  return (
    <section className="border-t border-line px-[14px] py-2" aria-label="Collections">
      <header className="flex items-baseline gap-2">
        <h3 className="text-[13px]">Collections</h3>
        <span className="text-ink-3">in shoppers' sight after the next release</span>
      </header>
      <ul>
        {collections.map((collection) => {
          const [words, to, done] = way(collection);
          return (
            <li key={collection.key} className="flex items-center gap-2 py-0.5">
              <Link
                className={`link min-w-0 truncate ${collection.how === "kept out" ? "text-ink-3 !line-through" : ""}`}
                to={placeOf("collection", collection.key)}
              >
                {collection.name}
              </Link>
              <span className="text-ink-3">{HOW[collection.how ?? ""] ?? "being put together"}</span>
              <Button
                right="edit"
                look="quiet"
                className="ml-auto flex-none"
                aria-label={`${words}: ${collection.name}`}
                onClick={() => hand(collection.key, to, done)}
              >
                {words}
              </Button>
            </li>
          );
        })}
      </ul>
      {collections.length === 0 && <p className="hint">It is in no collection.</p>}
      <Picker
        label="Put into a collection"
        what="collection"
        rows={all
          .filter(({ thing }) => !collections.some((collection) => collection.key === thing.key))
          .map(({ thing }) => ({ key: thing.key, name: thing.name }))}
        onPick={(key) => {
          const name = all.find(({ thing }) => thing.key === key)?.thing.name ?? key;
          hand(key, "picked", `${product.title} put into ${name}`);
        }}
      />
    </section>
  );
}

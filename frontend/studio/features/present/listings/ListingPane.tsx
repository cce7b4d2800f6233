import { useQuery, useQueryClient } from "@tanstack/react-query";
import { Link } from "react-router";
import type { Schemas } from "../../../api/client";
import { placeOf } from "../../../api/nouns";
import { ask } from "../../../api/queries";
import { useConsidering } from "../../../considering/Considering";
import { touchedByOne, usePutCell } from "../../../considering/usePut";
import { DeviceFrame, deviceOf, WIDTHS } from "../../../proof/DeviceFrame";
import { Side } from "../../../proof/ProofPane";
import { Widths } from "../../../proof/Widths";
import { useSurfaces } from "../../../state/surfaces";
import { useAddress } from "../../../ui/address";
import { Button, counted, Empty } from "../../../ui/basics";
import { focusOnceThere } from "../../../ui/focus";
import { number } from "../../../ui/locale";
import { ForAll } from "../../../ui/rights";
import { Select } from "../../../ui/Select";

type Listed = Schemas["ListingCardsOut"];
const WHICH = "Which listing";
const PROOFS: Record<string, string> = { product_type: "type", collection: "collection" };

/** A listing as it is and as it will be, with how many cards it has, and what is wrong with them. */
export function ListingPane({ collection, scope }: { collection: string | null; scope: string }) {
  const [asked, setAsked] = useAddress("listing");
  const [device, setDevice] = useAddress("device");
  const [live, setLive] = useAddress("live");
  const types = useQuery(ask.things("product_type")).data ?? [];
  const collections = useQuery(ask.things("collection")).data ?? [];
  const first = types[0] ? `product_type/${types[0].thing.key}` : null;
  const value = collection ? `collection/${collection}` : (asked ?? first);
  const [noun = "", key = ""] = value?.split("/") ?? [];
  const found = useQuery({ ...ask.listingCards(noun, key), enabled: value !== null }).data;
  const things = { product_type: types, collection: collections }[noun] ?? [];
  const slug = things.find(({ thing }) => thing.key === key)?.thing.slug;
  const chosen = deviceOf(device, "desktop");
  const both = live === "1" && slug;
  if (value === null) return <Empty title="No listing yet">A product type has one, and so has a collection.</Empty>;
  const draft = `/proof/${PROOFS[noun] ?? noun}/${key}`;
  return (
    <section className="@container flex min-h-0 flex-1 flex-col bg-[#e7eaf0]" aria-label="Proof">
      <header className="flex flex-none flex-wrap items-center gap-2 px-3 py-2">
        <h2 className="sr">The listing</h2>
        <ForAll>
          <Select
            className="input !w-auto font-semibold"
            aria-label={WHICH}
            value={value}
            disabled={collection !== null}
            onChange={(event) => setAsked(event.target.value === first ? null : event.target.value)}
          >
            <optgroup label="Product types">
              {types.map(({ thing, path }) => (
                <option key={thing.key} value={`product_type/${thing.key}`}>
                  {path ?? thing.name}
                </option>
              ))}
            </optgroup>
            <optgroup label="Collections">
              {collections.map(({ thing }) => (
                <option key={thing.key} value={`collection/${thing.key}`}>
                  {thing.name}
                </option>
              ))}
            </optgroup>
          </Select>
        </ForAll>
        <span className="text-ink-2" aria-live="polite">
          {found && totalWords(found)}
        </span>
        <span className="ml-auto flex gap-1.5">
          <Widths value={chosen} usual="desktop" onChoose={setDevice} />
          <button
            type="button"
            className="btn"
            aria-pressed={Boolean(both)}
            title="The listing as it is live beside the draft"
            onClick={() => setLive(both ? null : "1")}
          >
            Live
          </button>
        </span>
      </header>
      {found && <Remarks found={found} scope={scope} />}
      <div className="flex min-h-0 flex-1">
        {both && (
          <Side words={`Live: ${counted(found?.live ?? 0, "card")}`}>
            <DeviceFrame src={`/shop/c/${slug}`} title="The page as it is live" width={WIDTHS[chosen]} />
          </Side>
        )}
        <Side words={both ? "Draft" : ""}>
          <DeviceFrame src={draft} title="The page as shoppers would see it" width={WIDTHS[chosen]} />
        </Side>
      </div>
    </section>
  );
}

function totalWords({ products, looked_at, cards, live }: Listed): string {
  const of =
    looked_at < products
      ? `the first ${number(looked_at)} of ${counted(products, "product")}`
      : counted(products, "product");
  return `${of} → ${counted(cards, "card")}${looked_at === products && live !== cards ? `, ${number(live)} live` : ""}`;
}

/** Cards that can't be told apart, with a mend; products that are not there; which have the most. */
function Remarks({ found, scope }: { found: Listed; scope: string }) {
  const mend = useMend();
  const more = (all: number, shown: number) => (all > shown ? ` and ${number(all - shown)} more` : "");
  if (found.alike_in_all + found.gone_in_all + found.most.length === 0) return null;
  const most = Math.max(1, ...found.most.map(({ cards }) => cards));
  return (
    <div className="flex-none border-b border-line bg-white px-3 py-2">
      {found.alike_in_all > 0 && (
        <p className="mb-1.5">
          <b className="text-madder">
            {counted(found.alike_in_all, "product has", "products have")} several cards of one title:
          </b>{" "}
          <Named products={found.alike} />
          {more(found.alike_in_all, found.alike.length)}.{" "}
          {found.mend && (
            <Button right="edit" onClick={() => void mend(found.mended_at || scope, found.mend ?? "")}>
              Call them {found.mend}
            </Button>
          )}
        </p>
      )}
      {found.gone_in_all > 0 && (
        <p className="mb-1.5">
          <b>{counted(found.gone_in_all, "product is", "products are")} left out here:</b>{" "}
          <Named products={found.gone} />
          {more(found.gone_in_all, found.gone.length)}.
        </p>
      )}
      {found.most.length > 0 && (
        <ul aria-label="What splits" className="grid gap-0.5">
          {found.most.map((product) => (
            <li key={product.id} className="grid grid-cols-[minmax(0,190px)_minmax(0,1fr)_32px] items-center gap-2">
              <span className="truncate">
                <Named products={[product]} />
              </span>
              <span className="h-2 rounded bg-woad" style={{ width: `${(100 * product.cards) / most}%` }} />
              <span className="text-right">{number(product.cards)}</span>
            </li>
          ))}
        </ul>
      )}
    </div>
  );
}

function Named({ products }: { products: readonly Schemas["CardedOut"][] }) {
  return products.map(({ id, title }, index) => (
    <span key={id}>
      {index > 0 && ", "}
      <Link className="link" to={placeOf("product", String(id))}>
        {title}
      </Link>
    </span>
  ));
}

/** Titles that tell cards apart, said where it is said how they are split. */
function useMend() {
  const put = usePutCell();
  const consider = useConsidering();
  const surface = useSurfaces().find(({ listed }) => listed)?.code ?? "";
  const cache = useQueryClient();
  return async (scope: string, title: string) => {
    const { version } = await cache.fetchQuery({ ...ask.listingRule(scope), staleTime: 0 });
    const at = { scope, field: "*", surface, version };
    consider(
      "Titles that tell cards apart",
      `listing/${scope}/title`,
      (signal) => touchedByOne(at, { title }, signal),
      () =>
        void put(at, { title }).then(() =>
          focusOnceThere(() => document.querySelector<HTMLElement>(`[aria-label="${WHICH}"]`)),
        ),
    );
  };
}

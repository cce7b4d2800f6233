import { useInfiniteQuery, useQuery } from "@tanstack/react-query";
import { type RefObject, useEffect, useRef, useState } from "react";
import { Link, useNavigate, useParams, useSearchParams } from "react-router";
import { client, data, type Schemas } from "../../../api/client";
import { ask } from "../../../api/queries";
import { ProofPane } from "../../../proof/ProofPane";
import { useSaving } from "../../../state/saving";
import { NewThing } from "../../../things/NewThing";
import { ThingPane } from "../../../things/ThingPane";
import { TypeOptions } from "../../../things/TypeOptions";
import { useAddress } from "../../../ui/address";
import { Button, counted, Empty } from "../../../ui/basics";
import { FindBox } from "../../../ui/FindBox";
import { moveFocus } from "../../../ui/keys";
import { number } from "../../../ui/locale";
import { ForAll } from "../../../ui/rights";
import { Select } from "../../../ui/Select";
import { Split } from "../../../ui/Split";
import { useLoadOn } from "../../../ui/useLoadOn";
import { useReveal } from "../../../ui/useReveal";
import { ProductEditor } from "./ProductEditor";

const SERVER_AFTER = 200;

export default function ProductsView() {
  const { key } = useParams();
  const id = key && /^\d+$/.test(key) ? Number(key) : null;
  return (
    <Split
      id="fill"
      parts={[
        { id: "products", min: 200, start: "19", className: "pane", children: <ProductList here={id} /> },
        {
          id: "editor",
          min: 400,
          start: "50",
          children: id ? (
            <ProductEditor key={id} id={id} />
          ) : (
            <Empty title="No product is open">Choose one on the left, or make one with N.</Empty>
          ),
        },
        {
          id: "pane",
          min: 300,
          start: "31",
          className: "pane",
          folds: "Proof",
          children: id && (
            <ThingPane what="product" noun="product" thing={String(id)} proof={<ProofPane product={id} />} />
          ),
        },
      ]}
    />
  );
}

function useProducts(filters: {
  q: string;
  type: string | null;
  gaps: boolean;
  lacking: string | null;
  wrong: string | null;
  collection: string | null;
}) {
  return useInfiniteQuery({
    queryKey: ["products", filters],
    initialPageParam: null as string | null,
    queryFn: ({ pageParam }) =>
      data(
        client.GET("/api/products", {
          params: {
            query: {
              q: filters.q,
              type: filters.type ?? undefined,
              gaps: filters.gaps,
              lacking: filters.lacking ?? undefined,
              wrong: filters.wrong ?? undefined,
              collection: filters.collection ?? undefined,
              cursor: pageParam ?? undefined,
            },
          },
        }),
      ),
    getNextPageParam: (last) => last.cursor,
    placeholderData: (old) => old,
  });
}

function ProductList({ here }: { here: number | null }) {
  const go = useNavigate();
  const [params] = useSearchParams();
  const { freshen } = useSaving();
  const [asked] = useAddress("q");
  const [type] = useAddress("type");
  const [gaps] = useAddress("gaps");
  const [lacking] = useAddress("lacking");
  const [wrong] = useAddress("wrong");
  const [collection] = useAddress("collection");
  const [newType, setNewType] = useState("");
  const types = useQuery(ask.things("product_type")).data ?? [];
  const found = useProducts({ q: asked ?? "", type, gaps: gaps === "1", lacking, wrong, collection });
  const rows = found.data?.pages.flatMap((page) => page.rows) ?? [];
  const total = found.data?.pages[0]?.total ?? 0;
  const search = params.toString();
  const to = (id: number) => ({ pathname: `/fill/products/${id}`, search });
  const first = rows[0]?.id;
  useEffect(() => {
    if (here === null && first !== undefined) go({ pathname: `/fill/products/${first}`, search }, { replace: true });
  }, [here, first, go, search]);
  const end = useLoadOn(found);
  const list = useRef<HTMLElement>(null);
  useReveal(
    list,
    here === null ? null : String(here),
    rows.some(({ id }) => id === here),
  );
  const make = async (title: string) => {
    const made = await data(
      client.POST("/api/products", { body: { type: newType || type || types[0]?.thing.key || "", title } }),
    );
    await freshen("product");
    go(`/fill/products/${made.id}`);
  };
  return (
    <>
      <ProductFilters list={list} settled={!found.isPlaceholderData && found.isSuccess} />
      <nav ref={list} className="scroll min-h-0 flex-1" aria-label="Products" onKeyDown={moveFocus}>
        {here !== null && found.isSuccess && !rows.some(({ id }) => id === here) && <OpenRow id={here} to={to(here)} />}
        {rows.map((row) => (
          <Row key={row.id} row={row} here={row.id === here} to={to(row.id)} />
        ))}
        <div ref={end} className="h-2" />
        {found.isSuccess && rows.length === 0 && (
          <Empty
            title={
              total === 0 && !asked && !type && !gaps && !lacking && !wrong
                ? "No products yet"
                : "No product is like that"
            }
          >
            {asked || type || gaps || lacking || wrong
              ? "Take a filter off to see more."
              : "Make the first one with N."}
          </Empty>
        )}
      </nav>
      <div className="flex-none border-t border-line p-3">
        <p className="hint mb-2">
          {counted(total, "product")}
          {found.data?.pages[0] && `, ${number(found.data.pages[0].gaps)} with gaps in all`}
        </p>
        <NewThing what="product" onMake={make}>
          <label className="mt-2 block">
            Type
            <Select
              className="input mt-1"
              value={newType || type || types[0]?.thing.key || ""}
              onChange={(event) => setNewType(event.target.value)}
            >
              <TypeOptions />
            </Select>
          </label>
        </NewThing>
      </div>
    </>
  );
}

/** What the list of products is narrowed by; the address holds it. */
function ProductFilters({ list, settled }: { list: RefObject<HTMLElement | null>; settled: boolean }) {
  const [asked, setAsked] = useAddress("q");
  const [type, setType] = useAddress("type");
  const [gaps, setGaps] = useAddress("gaps");
  const [lacking, setLacking] = useAddress("lacking");
  const [wrong, setWrong] = useAddress("wrong");
  const [collection, setCollection] = useAddress("collection");
  const collections = useQuery({ ...ask.things("collection"), enabled: collection !== null }).data;
  const collectionName = collections?.find(({ thing }) => thing.key === collection)?.thing.name ?? collection;
  const fields = useQuery({ ...ask.things("field"), enabled: Boolean(lacking ?? wrong) }).data ?? [];
  const fieldName = (key: string) => fields.find(({ thing }) => thing.key === key)?.thing.name ?? key;
  return (
    <div className="grid flex-none grid-cols-[minmax(0,1fr)] gap-2 p-3">
      <FindBox
        label="Find a product"
        text={asked ?? ""}
        onText={setAsked}
        after={SERVER_AFTER}
        list={list}
        settled={settled}
      />
      <div className="flex flex-wrap gap-1.5">
        <ForAll>
          <Select
            className="input !w-0 !min-w-[104px] flex-1"
            aria-label="Type"
            value={type ?? ""}
            onChange={(event) => setType(event.target.value)}
          >
            <option value="">Every type</option>
            <TypeOptions />
          </Select>
        </ForAll>
        <Button
          aria-pressed={gaps === "1"}
          className={gaps === "1" ? "!border-woad !bg-woad-tint !text-woad" : ""}
          onClick={() => setGaps(gaps === "1" ? null : "1")}
        >
          with gaps
        </Button>
        {lacking && <Chip text={`no ${fieldName(lacking)}`} onOff={() => setLacking(null)} />}
        {wrong && <Chip text={`wrong ${fieldName(wrong)}`} onOff={() => setWrong(null)} />}
        {collection && <Chip text={`in ${collectionName}`} onOff={() => setCollection(null)} />}
      </div>
    </div>
  );
}

function Chip({ text, onOff }: { text: string; onOff: () => void }) {
  return (
    <button type="button" className="chip" onClick={onOff} aria-label={`${text}: take this filter off`}>
      {text} <span aria-hidden="true">✕</span>
    </button>
  );
}

/** The product that is open, where it is not among those that are listed so far. */
function OpenRow({ id, to }: { id: number; to: { pathname: string; search: string } }) {
  const product = useQuery(ask.product(id)).data;
  if (!product) return null;
  return (
    <Link to={to} aria-current className="side here !block border-b border-line">
      <span className="block truncate">{product.title}</span>
      <span className="block truncate font-normal text-ink-3">open, not among those listed so far</span>
    </Link>
  );
}

function Row({
  row,
  here,
  to,
}: {
  row: Schemas["ProductRowOut"];
  here: boolean;
  to: { pathname: string; search: string };
}) {
  const gaps = row.missing + row.wrong;
  return (
    <Link
      data-item
      to={to}
      title={row.title}
      aria-current={here || undefined}
      data-mark={row.id}
      className={`side !flex items-center gap-2.5 ${here ? "here" : ""}`}
    >
      {row.picture ? (
        <img
          src={`/files/${row.picture}-160.webp`}
          alt=""
          loading="lazy"
          width={36}
          height={36}
          className="h-9 w-9 flex-none rounded-[3px] object-cover"
        />
      ) : (
        <span className="woven h-9 w-9 flex-none rounded-[3px] border border-line" />
      )}
      <span className="min-w-0 flex-1">
        <span className="block truncate">{row.title}</span>
        <span className="block truncate font-normal text-ink-3">
          {row.type_name}
          {!row.offered && ", kept out"}
        </span>
      </span>
      {gaps > 0 && (
        <span className="font-semibold text-madder" title={`${row.missing} missing, ${row.wrong} wrong`}>
          {gaps}
        </span>
      )}
    </Link>
  );
}

import { useInfiniteQuery, useQuery } from "@tanstack/react-query";
import { Link } from "react-router";
import { client, data } from "../../../api/client";
import { PRODUCT, placeOf, type Things } from "../../../api/nouns";
import { ask } from "../../../api/queries";
import { ConditionButton } from "../../../conditions/ConditionDialog";
import type { Json } from "../../../conditions/tree";
import { LastChanged } from "../../../history/LastChanged";
import { CopyThing } from "../../../things/CopyThing";
import { Picker } from "../../../things/FieldPicker";
import { RemoveThing } from "../../../things/RemoveThing";
import { useThingsOf } from "../../../things/useThingsOf";
import { Button, counted } from "../../../ui/basics";
import { ByHand } from "../collections/ByHand";
import { useGathering } from "../collections/useGathering";
import { useOptionSet } from "./useOptionSet";

/** Through types, by a condition, by hand and by pasted SKUs; and the products that have it so, each with how it got it. */
export function OfferedTo({ row }: { row: Things["option_set"] }) {
  const { key, name } = row.thing;
  const types = useQuery(ask.things("product_type")).data ?? [];
  const { put: putType } = useThingsOf("product_type");
  const { put, remove } = useOptionSet(row);
  const { gather } = useGathering("option_set", row);
  const takers = types.filter(({ thing }) => row.types.includes(thing.key));
  return (
    <section className="scroll min-h-0 flex-1 pb-4" aria-label="Offered to">
      <p className="band">
        Through types <span>· and all below them</span>
      </p>
      <div className="px-[14px] py-2">
        {takers.length === 0 && <p className="hint">No type has it yet.</p>}
        <ul>
          {takers.map((taker) => (
            <li key={taker.thing.key} className="flex items-center gap-2">
              <Link className="link min-w-0 flex-1 truncate" to={placeOf("product_type", taker.thing.key)}>
                {taker.path}
              </Link>
              <span className="text-ink-3">{counted(taker.below, "product")}</span>
              <Button
                right="edit"
                look="quiet"
                aria-label={`Take off ${taker.path}`}
                onClick={() =>
                  void putType(
                    taker,
                    (now) => ({ option_sets: (now.option_sets ?? []).filter((other) => other !== key) }),
                    `Take ${name} off ${taker.thing.name}`,
                  )
                }
              >
                Take off
              </Button>
            </li>
          ))}
        </ul>
        <Picker
          label="Offer it through a type"
          what="product type"
          rows={types
            .filter(({ thing }) => !row.types.includes(thing.key))
            .map((type) => ({ key: type.thing.key, name: type.path }))}
          onPick={(picked) => {
            const taker = types.find(({ thing }) => thing.key === picked);
            if (taker)
              void putType(
                taker,
                (now) => ({ option_sets: [...(now.option_sets ?? []), key] }),
                `Offer ${name} on all ${taker.thing.name}`,
              );
          }}
        />
      </div>
      <p className="band">
        By a condition <span>· whatever the type, now and later</span>
      </p>
      <div className="px-[14px] py-2">
        <ConditionButton
          label="Products that meet"
          none="nobody by a condition"
          off="Nobody by a condition"
          value={(row.thing.condition as Json | null | undefined) ?? null}
          onPut={(condition) => put(() => ({ condition: condition as never }), `Who is offered ${name} changed`)}
        />
      </div>
      <ByHand noun="option_set" row={row} />
      {!row.gathered && (
        <p className="px-[14px] pb-2">
          Its products or their variants are not all in step yet: see Release, Jobs.{" "}
          <Button look="quiet" onClick={() => void gather()}>
            Begin anew
          </Button>
        </p>
      )}
      <Products set={key} total={row.products} />
      <div className="px-[14px]">
        <LastChanged noun="option_set" thing={key} />
        <CopyThing noun="option_set" thing={key} name={name} note="offered to nobody yet" />
        <RemoveThing what="option set" noun="option_set" name={name} remove={remove} to="/compose/options" />
      </div>
    </section>
  );
}

function Products({ set, total }: { set: string; total: number }) {
  const pages = useInfiniteQuery({
    queryKey: ["offered", set, "all"],
    queryFn: ({ pageParam }) =>
      data(
        client.GET("/api/option_sets/{key}/products", {
          params: { path: { key: set }, query: { after: pageParam } },
        }),
      ),
    initialPageParam: 0,
    getNextPageParam: (last) => last.next ?? undefined,
  });
  const rows = pages.data?.pages.flatMap((page) => page.rows) ?? [];
  return (
    <>
      <p className="band">
        {counted(total, "product")} <span>· with how each got it</span>
      </p>
      <ul className="px-[14px] py-1" aria-label="Products that have it">
        {rows.map((row) => (
          <li key={row.id} className="border-b border-line py-1">
            <span className="flex items-center gap-2">
              <Link className="min-w-0 flex-1 truncate hover:underline" to={placeOf(PRODUCT, String(row.id))}>
                {row.title}
              </Link>
              <span className="text-ink-3">{row.variants > 0 ? counted(row.variants, "variant") : ""}</span>
            </span>
            <span className="hint block truncate">{row.reason}</span>
            {row.clashes.map((clash) => (
              <span key={clash.words} className="wrongly block">
                {clash.words}.{" "}
                <Link className="link" to={placeOf("option_set", clash.sets[1] ?? "")}>
                  Mend it there
                </Link>
              </span>
            ))}
          </li>
        ))}
      </ul>
      {pages.hasNextPage && (
        <Button className="mx-[14px]" onClick={() => void pages.fetchNextPage()}>
          More
        </Button>
      )}
    </>
  );
}

import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { Link, useParams } from "react-router";
import { client, data } from "../../../api/client";
import type { Things } from "../../../api/nouns";
import { ask } from "../../../api/queries";
import { Saved, useSaving } from "../../../state/saving";
import { CopyThing } from "../../../things/CopyThing";
import { RemoveThing } from "../../../things/RemoveThing";
import { ExampleProof, ThingPane } from "../../../things/ThingPane";
import { ThingsFrame } from "../../../things/ThingsFrame";
import { Button, counted, Line } from "../../../ui/basics";
import { Opening } from "../../../ui/Opening";
import { PaneHead } from "../../../ui/Split";
import { TextBox } from "../../../ui/TextBox";
import { ByHand } from "./ByHand";
import { MembersPane } from "./MembersPane";
import { useGathering } from "./useGathering";
import { WhatItDoes } from "./WhatItDoes";
import { WhoIsIn } from "./WhoIsIn";
import { WordsAndPicture } from "./WordsAndPicture";

export default function CollectionsView() {
  const { key } = useParams();
  const rows = useQuery({ ...ask.things("collection"), refetchInterval: whileGathering }).data;
  const { save } = useSaving();
  if (!rows) return <Opening />;
  const here = rows.find(({ thing }) => thing.key === key);
  /** Put a collection where another stands. */
  function move(from: number, to: number) {
    const keys = (rows ?? []).map(({ thing }) => thing.key);
    const moved = keys[from];
    if (moved === undefined || to < 0 || to >= keys.length) return;
    const others = keys.filter((other) => other !== moved);
    const body = { after: to === 0 ? null : (others[to - 1] ?? null) };
    void save(() => data(client.PUT("/api/collections/{key}/place", { params: { path: { key: moved } }, body })), {
      noun: "collection",
    });
  }
  return (
    <ThingsFrame
      noun="collection"
      here={key}
      rows={rows.map(({ thing, products }) => ({ key: thing.key, name: thing.name, count: products }))}
      onMove={move}
      note="In this order: where two say different things of a product, the upper one is followed."
      sheet={here && <CollectionSheet key={here.thing.key} row={here} />}
      pane={
        here && (
          <ThingPane
            what="collection"
            noun="collection"
            thing={here.thing.key}
            own={[
              ["members", "Products", <MembersPane key={here.thing.key} row={here} />],
              ["words", "Words and picture", <WordsAndPicture key={here.thing.key} row={here} />],
            ]}
            proof={
              <ExampleProof
                noun="collection"
                thing={here.thing.key}
                listing={{
                  proof: `/proof/collection/${here.thing.key}`,
                  noun: "collection",
                  key: here.thing.key,
                  first: true,
                }}
              />
            }
          />
        )
      }
    />
  );
}

/** While products are being gathered, how many there are is asked again and again. */
function whileGathering(query: { state: { data?: Things["collection"][] } }): number | false {
  return query.state.data?.some((row) => !row.gathered) ? 1500 : false;
}

function CollectionSheet({ row }: { row: Things["collection"] }) {
  const { thing } = row;
  const { put, gather, remove } = useGathering("collection", row);
  const [wrong, setWrong] = useState<{ where: string; text: string } | null>(null);
  const write = (changes: Parameters<typeof put>[0]) =>
    put(changes, {
      onRefused: ({ problem }) =>
        setWrong({ where: String(problem.where[0] ?? ""), text: `${problem.message}. ${problem.help}` }),
    }).then((answer) => answer && setWrong(null));
  const at = (where: string) => (wrong?.where === where ? wrong.text : null);
  return (
    <>
      <PaneHead
        title={thing.name}
        note={
          <>
            <span className="key mr-2">{thing.key}</span>
            <Link className="link" to={`/fill/products?collection=${thing.key}`}>
              {counted(row.products, "product")}
            </Link>
          </>
        }
      >
        <Saved />
      </PaneHead>
      {!row.gathered && (
        <p className="flex flex-none items-center gap-3 bg-weld-tint px-[14px] py-1.5" role="status">
          Its products are being put together: the number rises until that is done.
          <Link className="link" to="/release/jobs">
            see how far
          </Link>
          <Button look="quiet" onClick={() => void gather()}>
            begin again
          </Button>
        </p>
      )}
      <div className="scroll min-h-0 flex-1 pb-6">
        <WhoIsIn row={row} />
        <ByHand noun="collection" row={row} />
        <WhatItDoes row={row} />
        <p className="band">Name and address</p>
        <div className="px-[14px] py-2">
          <Line label="Name" wrong={at("name")}>
            {(id) => <TextBox id={id} value={thing.name} onCommit={(name) => write({ name })} />}
          </Line>
          <Line label="Address" wrong={at("slug")} note={`/shop/c/${thing.slug}`}>
            {(id) => <TextBox id={id} className="font-mono" value={thing.slug} onCommit={(slug) => write({ slug })} />}
          </Line>
          <CopyThing noun="collection" thing={thing.key} name={thing.name} note="with the same products" />
          <RemoveThing
            what="collection"
            noun="collection"
            name={thing.name}
            remove={remove}
            to="/compose/collections"
          />
        </div>
      </div>
    </>
  );
}

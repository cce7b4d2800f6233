import { useQuery } from "@tanstack/react-query";
import { lazy, type ReactNode, Suspense } from "react";
import { ask } from "../api/queries";
import { HistoryPane } from "../history/HistoryPane";
import type { ListingProof } from "../proof/ProofPane";
import { useAddress, usePutAddress } from "../ui/address";
import { useKeys } from "../ui/keys";
import { PaneTabs } from "../ui/Split";

/** Proofs come when the first is looked at. */
const ProofPane = lazy(() => import("../proof/ProofPane").then((room) => ({ default: room.ProofPane })));

/** Which tab the pane shows: the thing's own, `proof` or `history`; P and H go there and back. */
export function usePaneTab(own: string): [string, (tab: string) => void] {
  const [pane] = useAddress("pane");
  const put = usePutAddress();
  const tab = pane ?? own;
  const choose = (to: string) => put({ pane: to === own ? null : to, unfold: "1" });
  const turn = (to: string) => choose(tab === to ? own : to);
  useKeys({ p: () => turn("proof"), h: () => turn("history") });
  return [tab, choose];
}

type OwnTab = readonly [string, string, ReactNode];

/** The pane beside a thing: its own parts if it has any, the proof, and what was changed in it. */
export function ThingPane(props: {
  what: string;
  noun: string;
  thing: string;
  own?: readonly OwnTab[];
  proof: ReactNode;
}) {
  const own = props.own ?? [];
  const [tab, choose] = usePaneTab(own[0]?.[0] ?? "proof");
  return (
    <>
      <PaneTabs
        label={`Of this ${props.what}`}
        value={tab}
        tabs={[...own.map(([code, name]) => [code, name] as const), ["proof", "Proof"], ["history", "History"]]}
        onChoose={choose}
      />
      {tab === "history" ? (
        <HistoryPane noun={props.noun} thing={props.thing} />
      ) : tab === "proof" ? (
        props.proof
      ) : (
        own.find(([code]) => code === tab)?.[2]
      )}
    </>
  );
}

/** The proof of a product that has a thing, or of another one picked. */
export function ExampleProof(props: { noun: string; thing: string; field?: string; listing?: ListingProof }) {
  const { noun, thing, field } = props;
  const found = useQuery(ask.example(noun, thing)).data;
  const [picked, setPicked] = useAddress("product");
  if (!found) return null;
  return (
    <Suspense fallback={null}>
      <ProofPane
        product={picked ? Number(picked) : found.product}
        field={field}
        listing={props.listing}
        onPick={(number) => setPicked(String(number))}
      />
    </Suspense>
  );
}

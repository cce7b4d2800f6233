import { useQuery } from "@tanstack/react-query";
import type { ReactNode } from "react";
import { ask } from "../api/queries";
import { useAddress, usePutAddress } from "../ui/address";
import { useKeys } from "../ui/keys";
import { PaneTabs } from "../ui/Split";
import { HistoryPane } from "./history/HistoryPane";
import { ProofPane } from "./proof/ProofPane";

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

/** The pane beside a thing: its own part if it has one, the proof, and what was changed in it. */
export function ThingPane(props: {
  what: string;
  noun: string;
  thing: string;
  own?: readonly [string, string, ReactNode];
  proof: ReactNode;
}) {
  const [tab, choose] = usePaneTab(props.own?.[0] ?? "proof");
  const own = props.own ? [[props.own[0], props.own[1]] as const] : [];
  return (
    <>
      <PaneTabs
        label={`Of this ${props.what}`}
        value={tab}
        tabs={[...own, ["proof", "Proof"], ["history", "History"]]}
        onChoose={choose}
      />
      {tab === "history" ? (
        <HistoryPane noun={props.noun} thing={props.thing} />
      ) : tab === "proof" ? (
        props.proof
      ) : (
        props.own?.[2]
      )}
    </>
  );
}

/** The proof of a product that has a thing, or of another one picked. */
export function ExampleProof({ noun, thing, field }: { noun: string; thing: string; field?: string }) {
  const found = useQuery(ask.example(noun, thing)).data;
  const [picked, setPicked] = useAddress("product");
  if (!found) return null;
  return (
    <ProofPane
      product={picked ? Number(picked) : found.product}
      field={field}
      onPick={(number) => setPicked(String(number))}
    />
  );
}

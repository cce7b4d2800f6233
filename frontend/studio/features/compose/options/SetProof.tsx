import { useQuery } from "@tanstack/react-query";
import type { Things } from "../../../api/nouns";
import { ProofPane } from "../../../proof/ProofPane";
import { useAddress } from "../../../ui/address";
import { Empty } from "../../../ui/basics";
import { askOffered } from "./offered";

/** The page of a product that is offered the set. */
export function SetProof({ row }: { row: Things["option_set"] }) {
  const first = useQuery(askOffered(row.thing.key, 0)).data?.rows[0];
  const [picked, setPicked] = useAddress("product");
  const product = picked ? Number(picked) : first?.id;
  if (!product)
    return (
      <Empty title="No product has it yet">Offer it to some, under Offered to: their pages are proved here.</Empty>
    );
  return <ProofPane product={product} onPick={(number) => setPicked(String(number))} />;
}

import { useQuery } from "@tanstack/react-query";
import { ask } from "../api/queries";
import { FindProduct } from "./FindProduct";

/** Which product the proof is of, and a way to prove another. */
export function ProofTitle({ product, onPick }: { product: number; onPick?: (product: number) => void }) {
  const title = useQuery(ask.product(product)).data?.title ?? "";
  if (!onPick)
    return (
      <h2 className="min-w-[150px] flex-1 truncate font-bold" title={title}>
        Proof <span className="font-normal text-ink-2">of {title}</span>
      </h2>
    );
  return (
    <h2 className="flex min-w-[150px] flex-1 items-center gap-2 font-bold">
      <span className="hidden @[470px]:inline">Proof</span>
      <FindProduct
        label="Prove another product"
        onPick={onPick}
        trigger={
          <button type="button" className="btn min-w-0 max-w-[190px] !px-2" title={title}>
            <span className="truncate">{title}</span> ▾
          </button>
        }
      />
    </h2>
  );
}

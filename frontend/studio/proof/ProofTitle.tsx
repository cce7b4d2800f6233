import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { PRODUCT } from "../api/nouns";
import { ask } from "../api/queries";
import { Popover } from "../ui/basics";

/** Which product the proof is of, and a way to prove another. */
export function ProofTitle({ product, onPick }: { product: number; onPick?: (product: number) => void }) {
  const title = useQuery(ask.product(product)).data?.title ?? "";
  const [open, setOpen] = useState(false);
  const [text, setText] = useState("");
  const hits = useQuery({ ...ask.find(text), enabled: open && text !== "" }).data?.hits ?? [];
  if (!onPick)
    return (
      <h2 className="min-w-[150px] flex-1 truncate font-bold" title={title}>
        Proof <span className="font-normal text-ink-2">of {title}</span>
      </h2>
    );
  return (
    <h2 className="flex min-w-[150px] flex-1 items-center gap-2 font-bold">
      <span className="hidden @[470px]:inline">Proof</span>
      <Popover
        label="Prove another product"
        open={open}
        onOpen={setOpen}
        trigger={
          <button type="button" className="btn min-w-0 max-w-[190px] !px-2" title={title}>
            <span className="truncate">{title}</span> ▾
          </button>
        }
      >
        <input
          className="input"
          aria-label="Find a product"
          placeholder="Find a product"
          value={text}
          onChange={(event) => setText(event.target.value)}
        />
        <ul className="mt-2 font-normal">
          {hits
            .filter((hit) => hit.noun === PRODUCT)
            .map((hit) => (
              <li key={hit.key}>
                <button
                  type="button"
                  className="side rounded"
                  onClick={() => {
                    onPick(Number(hit.key));
                    setOpen(false);
                  }}
                >
                  {hit.name}
                </button>
              </li>
            ))}
        </ul>
        {!text && <p className="hint mt-2">Type a few letters of its title or SKU.</p>}
      </Popover>
    </h2>
  );
}

import { useQuery } from "@tanstack/react-query";
import { useRef, useState } from "react";
import { PRODUCT } from "../api/nouns";
import { ask } from "../api/queries";
import { Popover } from "../ui/basics";
import { FindBox } from "../ui/FindBox";
import { moveFocus } from "../ui/keys";

const SERVER_AFTER = 200;

/** Which product the proof is of, and a way to prove another. */
export function ProofTitle({ product, onPick }: { product: number; onPick?: (product: number) => void }) {
  const title = useQuery(ask.product(product)).data?.title ?? "";
  const [open, setOpen] = useState(false);
  const [text, setText] = useState("");
  const found = useQuery({ ...ask.find(text), enabled: open && text !== "" });
  const hits = found.data?.hits ?? [];
  const list = useRef<HTMLUListElement>(null);
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
        <FindBox
          label="Find a product"
          text={text}
          onText={setText}
          after={SERVER_AFTER}
          list={list}
          settled={found.isSuccess}
        />
        <ul ref={list} className="mt-2 font-normal" onKeyDown={moveFocus}>
          {hits
            .filter((hit) => hit.noun === PRODUCT)
            .map((hit) => (
              <li key={hit.key}>
                <button
                  type="button"
                  data-item
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
        {text && found.isSuccess && !hits.some((hit) => hit.noun === PRODUCT) && (
          <p className="hint mt-2">No product has that in its title or SKU.</p>
        )}
        {!text && <p className="hint mt-2">Type a few letters of its title or SKU.</p>}
      </Popover>
    </h2>
  );
}

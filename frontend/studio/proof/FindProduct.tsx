import { useQuery } from "@tanstack/react-query";
import { type ReactElement, useRef, useState } from "react";
import { PRODUCT } from "../api/nouns";
import { ask } from "../api/queries";
import { Popover } from "../ui/basics";
import { FindBox } from "../ui/FindBox";
import { moveFocus } from "../ui/keys";

const SERVER_AFTER = 200;

/** A product found by a few letters of its title or SKU. */
export function FindProduct(props: { label: string; trigger: ReactElement; onPick: (product: number) => void }) {
  const [open, setOpen] = useState(false);
  const [text, setText] = useState("");
  const found = useQuery({ ...ask.find(text), enabled: open && text !== "" });
  const hits = (found.data?.hits ?? []).filter((hit) => hit.noun === PRODUCT);
  const list = useRef<HTMLUListElement>(null);
  return (
    <Popover label={props.label} open={open} onOpen={setOpen} trigger={props.trigger}>
      <FindBox
        label="Find a product"
        text={text}
        onText={setText}
        after={SERVER_AFTER}
        list={list}
        settled={found.isSuccess}
      />
      <ul ref={list} className="mt-2 font-normal" onKeyDown={moveFocus}>
        {hits.map((hit) => (
          <li key={hit.key}>
            <button
              type="button"
              data-item
              className="side rounded"
              onClick={() => {
                props.onPick(Number(hit.key));
                setOpen(false);
              }}
            >
              {hit.name}
            </button>
          </li>
        ))}
      </ul>
      {text && found.isSuccess && hits.length === 0 && (
        <p className="hint mt-2">No product has that in its title or SKU.</p>
      )}
      {!text && <p className="hint mt-2">Type a few letters of its title or SKU.</p>}
    </Popover>
  );
}

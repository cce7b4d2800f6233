import { useEffect, useId, useState } from "react";
import { client, data, type Schemas } from "../../api/client";
import { usePutAddress } from "../../ui/address";
import { Weft } from "../../ui/basics";
import { ValueInput } from "./ValueInput";

type Props = {
  product: number;
  at: Schemas["EditField"];
  refused?: string;
  extra?: string;
  onFill: (value: unknown) => void;
};
const SURFACES = [
  ["product_page", "page"],
  ["listing_card", "card"],
  ["structured_data", "data"],
] as const;

/** A field of a product: its label, its control, what is wrong or helpful, and where it shows. */
export function FieldRow({ product, at, refused, extra, onFill }: Props) {
  const { field, need, value } = at;
  const id = useId();
  const [live, setLive] = useState<string | null>(null);
  const [typing, setTyping] = useState<string | null>(null);
  useEffect(() => {
    if (typing === null) return;
    let stale = false;
    const timer = setTimeout(async () => {
      const tried = await data(
        client.POST("/api/fields/try", { body: { key: field.key, texts: [typing], changes: {} } }),
      );
      if (!stale) setLive(tried.tried[0]?.message ?? null);
    }, 250);
    return () => {
      stale = true;
      clearTimeout(timer);
    };
  }, [typing, field.key]);
  useEffect(() => {
    setLive(null);
    setTyping(null);
  }, []);
  const wrong = refused ?? live ?? (typing === null ? value.message : null);
  const lacking = !wrong && value.state === "empty" && need === "required" && typing === null;
  const long = field.kind === "long_text" || field.kind === "picture" || (field.kind === "text" && field.many);
  return (
    <div
      data-mark={field.key}
      className={`grid grid-cols-[124px_minmax(0,1fr)_84px] gap-x-3 py-1 ${long ? "items-start" : "items-center"}`}
    >
      <label htmlFor={id} id={`${id}-label`} className={`${long ? "pt-1" : ""} break-words`} title={field.key}>
        {field.name}
        {need === "required" && <span className="sr"> (required)</span>}
      </label>
      <div>
        <ValueInput id={id} at={at} wrong={Boolean(wrong) || lacking} onFill={onFill} onTyping={setTyping} />
        {wrong ? (
          <p className="wrongly mt-0.5" role="alert">
            {wrong}
            {!refused && value.help && wrong === value.message ? `. ${value.help}` : ""}
          </p>
        ) : lacking ? (
          <p className="wrongly mt-0.5">required, not filled</p>
        ) : (
          field.help && <p className="hint mt-0.5">{field.help}</p>
        )}
      </div>
      <span>
        {field.audience === "staff" ? (
          <span className="hint">staff only</span>
        ) : (
          <Places
            product={product}
            field={field.key}
            name={field.name}
            surfaces={at.surfaces}
            shown={value.state === "good"}
          />
        )}
        {extra && <span className="mt-0.5 block text-[11.5px] leading-tight text-ink-2">{extra}</span>}
      </span>
    </div>
  );
}

/** Where the field shows; pressing a place asks why. */
function Places(props: { product: number; field: string; name: string; surfaces: string[]; shown: boolean }) {
  const put = usePutAddress();
  return (
    <span className="flex">
      {SURFACES.map(([code, word]) => {
        const on = props.surfaces.includes(code);
        const told = `${props.name} on the ${word}: ${on ? (props.shown ? "shown" : "would show, has no good value") : "not shown"}. Why?`;
        return (
          <button
            key={code}
            type="button"
            className="grid h-6 w-6 place-items-center"
            title={told}
            aria-label={told}
            onClick={() => put({ on: code, why: props.field, pane: null })}
          >
            <Weft small state={on ? (props.shown ? "here" : "inherited") : "off"} />
          </button>
        );
      })}
    </span>
  );
}

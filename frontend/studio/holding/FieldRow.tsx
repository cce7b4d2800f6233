import { useEffect, useId, useState } from "react";
import { client, data, type Schemas } from "../api/client";
import { kindUi } from "../kinds";
import { useSurfaces } from "../state/surfaces";
import { usePutAddress } from "../ui/address";
import { Weft } from "../ui/basics";
import { ValueInput } from "./ValueInput";

type Props = {
  /** The product it is a field of; other things show their fields nowhere that could be asked about. */
  product?: number;
  at: Schemas["EditField"];
  refused?: string;
  onFill: (value: unknown) => unknown;
};
/** Pixels that the mark of a surface takes. */
const MARK = 17;

/** What a surface's own documents are called, or its last word: `page`, `card`, `data`. */
export function surfaceWord(surface: Schemas["SurfaceOut"]): string {
  return surface.counted[0] ?? surface.name.split(" ").at(-1) ?? surface.code;
}

/** The words over the places of a field. */
export function SurfaceHeads() {
  const surfaces = useSurfaces();
  return (
    <span className="surface-heads ml-auto" style={{ gridTemplateColumns: `repeat(${surfaces.length}, ${MARK}px)` }}>
      {surfaces.map((surface) => (
        <span key={surface.code}>{surfaceWord(surface)}</span>
      ))}
    </span>
  );
}

/** A field of a product: its label, its control, what is wrong or helpful, and where it shows. */
export function FieldRow({ product, at, refused, onFill }: Props) {
  const { field, need, value, own } = at;
  const id = useId();
  const [live, setLive] = useState<string | null>(null);
  const [typing, setTyping] = useState<string | null>(null);
  useEffect(() => {
    if (typing === null || (product === undefined && !own)) return;
    let stale = false;
    const timer = setTimeout(async () => {
      const tried = await data(
        client.POST("/api/fields/try", {
          body: { key: field.key, texts: [typing], changes: { limits: field.limits } },
        }),
      );
      if (!stale) setLive(tried.tried[0]?.message ?? null);
    }, 250);
    return () => {
      stale = true;
      clearTimeout(timer);
    };
  }, [typing, field.key, field.limits, product, own]);
  const wrong = refused ?? live ?? (typing === null ? value.message : null);
  const lacking = !wrong && value.state === "empty" && need === "required" && typing === null;
  const { tall, wide } = kindUi(field.kind);
  const places = useSurfaces().length;
  const columns =
    product === undefined ? "92px minmax(0, 1fr)" : `124px minmax(0, 1fr) ${Math.max(places * MARK, 62)}px`;
  const long = tall?.(field) ?? false;
  return (
    <div
      data-mark={field.key}
      className={`grid gap-x-3 py-1 ${long ? "items-start" : "items-center"}`}
      style={{ gridTemplateColumns: columns }}
    >
      <label htmlFor={id} id={`${id}-label`} className={`${long ? "pt-1" : ""} break-words`} title={field.key}>
        {field.name}
        {need === "required" && <span className="sr"> (required)</span>}
      </label>
      <div className={wide ? "col-span-full row-start-2 min-w-0" : ""}>
        <ValueInput id={id} at={at} wrong={Boolean(wrong) || lacking} onFill={onFill} onTyping={setTyping} />
        {wrong ? (
          <p className="wrongly mt-0.5" role="alert">
            {wrong}
            {!refused && value.help && wrong === value.message ? `. ${value.help}` : ""}
          </p>
        ) : lacking ? (
          <p className="wrongly mt-0.5">required, not filled</p>
        ) : (
          <>
            {field.help && <p className="hint mt-0.5">{field.help}</p>}
            {at.standing && value.state === "empty" && !tall && (
              <p className="hint mt-0.5">
                Without a value: {at.standing.shown}, by {at.standing.source}
              </p>
            )}
          </>
        )}
      </div>
      {product !== undefined && (
        <span className={wide ? "col-start-3" : ""}>
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
        </span>
      )}
    </div>
  );
}

/** Where the field shows; pressing a place asks why. */
function Places(props: { product: number; field: string; name: string; surfaces: string[]; shown: boolean }) {
  const put = usePutAddress();
  const surfaces = useSurfaces();
  return (
    <fieldset
      className="grid justify-end"
      style={{ gridTemplateColumns: `repeat(${surfaces.length}, ${MARK}px)` }}
      aria-label={`Where ${props.name} shows`}
      onKeyDown={(event) => {
        const step = { ArrowRight: 1, ArrowLeft: -1 }[event.key];
        const marks = [...event.currentTarget.querySelectorAll("button")];
        const next = step && marks[marks.indexOf(event.target as HTMLButtonElement) + step];
        if (!next) return;
        event.preventDefault();
        next.focus();
      }}
    >
      {surfaces.map((surface, index) => {
        const { code } = surface;
        const word = surfaceWord(surface);
        const on = props.surfaces.includes(code);
        const words = `${props.name} on the ${word}: ${on ? (props.shown ? "shown" : "would show, has no good value") : "not shown"}. Why?`;
        return (
          <button
            key={code}
            type="button"
            // One stop for Tab; arrows go from mark to mark.
            tabIndex={index === 0 ? 0 : -1}
            className="grid h-6 place-items-center"
            title={words}
            aria-label={words}
            onClick={() => put({ on: code, why: props.field, pane: null })}
          >
            <Weft small state={on ? (props.shown ? "here" : "inherited") : "off"} />
          </button>
        );
      })}
    </fieldset>
  );
}

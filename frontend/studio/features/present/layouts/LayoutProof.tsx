import { useQuery } from "@tanstack/react-query";
import { type ReactNode, useEffect, useRef } from "react";
import { type About, ask } from "../../../api/queries";
import { type Device, DeviceFrame, deviceOf, WIDTHS } from "../../../proof/DeviceFrame";
import { ProofTitle } from "../../../proof/ProofTitle";
import { Widths } from "../../../proof/Widths";
import { useAddress } from "../../../ui/address";
import { Empty } from "../../../ui/basics";
import { type Edit, layoutOf, type View } from "./tree";

type Props = {
  view: View;
  picked: string | null;
  tried: readonly Edit[] | null;
  can: boolean;
  action: ReactNode;
  onHear: (asked: Record<string, unknown>) => void;
};

/** The width that layouts are proved at unless another is asked for. */
export const USUAL: Device = "desktop";

/** What a layout is proved with: a product, of its own or picked, or a record. */
export function useProved(view: View) {
  const [chosen, setChosen] = useAddress("product");
  const example = useQuery(ask.example(...provedWith(view))).data;
  const product = chosen ? Number(chosen) : (example?.product ?? null);
  const path = example?.record
    ? `/proof/record/${example.record}`
    : product !== null && `/proof/surface/${view.surface}/${product}`;
  const about: About | null = example?.record ? { record: example.record } : product !== null ? { product } : null;
  return { example, product, path, about, choose: (number: number) => setChosen(String(number)) };
}

/** Nouns whose things have arrangements of their own, by what scopes call them. */
const OF_SCOPE: Record<string, string> = { type: "product_type", collection: "collection", record_type: "record_type" };

/** The thing whose example a layout is proved with: what it would be for, or the layout itself. */
function provedWith(view: View): [noun: string, key: string] {
  const [kind = "", key = ""] = (view.own?.scope ?? "").split(":");
  const noun = OF_SCOPE[kind];
  return noun ? [noun, key] : ["layout", layoutOf(view)];
}

/** A page with the layout, on which blocks are picked, dragged and moved by keys. */
export function LayoutProof({ view, picked, tried, can, action, onHear }: Props) {
  const { example, product, path, choose } = useProved(view);
  const [device, setDevice] = useAddress("device");
  const width = deviceOf(device, USUAL);
  const frame = useRef<HTMLIFrameElement>(null);
  const hear = useRef(onHear);
  hear.current = onHear;
  useEffect(() => {
    function heard(event: MessageEvent) {
      if (event.origin === window.location.origin && event.data?.arrange) hear.current(event.data.arrange);
    }
    window.addEventListener("message", heard);
    return () => window.removeEventListener("message", heard);
  }, []);
  const tell = () => frame.current?.contentWindow?.postMessage({ picked }, window.location.origin);
  useEffect(tell, [picked]);
  const asked = new URLSearchParams({ layout: layoutOf(view), ...(can ? { arrange: "1" } : {}) });
  if (tried) {
    asked.set("edited", view.key);
    asked.set("edits", JSON.stringify(tried));
  }
  if (example && !path)
    return (
      <Empty title="Nothing to show it with">Make a product of a type with this layout, or a record, in Fill.</Empty>
    );
  return (
    <section className="@container flex min-h-0 flex-1 flex-col bg-[#e7eaf0]" aria-label="The layout on a page">
      <header className="flex flex-none flex-wrap items-center gap-2 px-3 py-2">
        {action}
        {example?.record && <span className="truncate font-semibold">{example.title}</span>}
        {!example?.record && product !== null && <ProofTitle product={product} onPick={choose} />}
        <span className="close ml-auto">
          <Widths value={width} usual={USUAL} onChoose={setDevice} />
        </span>
      </header>
      {path && (
        <DeviceFrame
          frame={frame}
          src={`${path}?${asked}`}
          title="A page with this layout"
          width={WIDTHS[width]}
          onLoad={tell}
        />
      )}
    </section>
  );
}

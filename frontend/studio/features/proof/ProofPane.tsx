import { useQuery } from "@tanstack/react-query";
import { useEffect, useRef, useState } from "react";
import { toast } from "sonner";
import { ask } from "../../api/queries";
import { PRODUCT } from "../../app/nouns";
import { useSaving } from "../../app/saving";
import { useAddress } from "../../ui/address";
import { Empty, Popover, Segments } from "../../ui/basics";
import { useKeys } from "../../ui/keys";
import { NotShown, WhyPanel } from "./Why";

const WIDTHS = { phone: 390, tablet: 820, desktop: 1280 } as const;
type Device = keyof typeof WIDTHS;
type Kind = "page" | "listing";

/** Where a listing is proved that is not that of the product's type, and whether it is what is shown at first. */
export type ListingProof = { proof: string; first?: boolean };

/** The draft page or listing of a product, scaled to the pane, and below it what it does not show and why. */
export function ProofPane(props: {
  product: number | null;
  field?: string;
  onPick?: (product: number) => void;
  pickable?: boolean;
  listing?: ListingProof;
}) {
  const [device, setDevice] = useAddress("device");
  const [asked, setKind] = useAddress("proof");
  const usual: Kind = props.listing?.first ? "listing" : "page";
  const kind = (asked as Kind) ?? usual;
  const [why, setWhy] = useAddress("why");
  const [on, setOn] = useAddress("on");
  const chosen = (device as Device) in WIDTHS ? (device as Device) : "phone";
  const surfaces = useQuery(ask.meta()).data?.surfaces ?? [];
  const proved = surfaces.find((surface) => (kind === "listing" ? surface.listed : surface.addressed))?.code ?? "";
  const surface = on ?? proved;
  useKeys({
    w: () =>
      props.field
        ? setWhy(props.field)
        : toast("Choose what to ask about", { description: "Press a field in the proof, or a name below it." }),
    escape: () => setWhy(null),
  });
  if (props.product === null)
    return <Empty title="No product to prove with">A product that has this shows here as shoppers would see it.</Empty>;
  return (
    <section className="@container flex min-h-0 flex-1 flex-col bg-[#e7eaf0]" aria-label="Proof">
      <header className="flex flex-none flex-wrap items-center gap-2 px-3 py-2 @[350px]:flex-nowrap">
        <ProofTitle product={props.product} onPick={props.onPick} />
        <span className="close ml-auto flex flex-none gap-1.5">
          <Segments<Kind>
            label="What is proved"
            value={kind}
            choices={[
              ["page", "Page"],
              ["listing", "Listing"],
            ]}
            onChoose={(chosen) => setKind(chosen === usual ? null : chosen)}
          />
          <Segments<Device>
            label="Width"
            value={chosen}
            choices={[
              ["phone", "Phone"],
              ["tablet", "Tablet"],
              ["desktop", "Desktop"],
            ]}
            onChoose={(chosen) => setDevice(chosen === "phone" ? null : chosen)}
          />
        </span>
      </header>
      <Frame
        product={props.product}
        listing={kind === "listing" ? (props.listing?.proof ?? true) : false}
        width={WIDTHS[chosen]}
        onPick={(field) => setWhy(field)}
      />
      {why ? (
        <WhyPanel
          product={props.product}
          field={why}
          surface={surface}
          onSurface={setOn}
          onClose={() => setWhy(null)}
        />
      ) : (
        <NotShown product={props.product} surface={surface} onAsk={setWhy} />
      )}
    </section>
  );
}

function ProofTitle({ product, onPick }: { product: number; onPick?: (product: number) => void }) {
  const title = useQuery(ask.product(product)).data?.title ?? "";
  const [open, setOpen] = useState(false);
  const [text, setText] = useState("");
  const hits = useQuery({ ...ask.find(text), enabled: open && text !== "" }).data?.hits ?? [];
  if (!onPick)
    return (
      <h2 className="min-w-0 flex-1 truncate font-bold" title={title}>
        Proof <span className="font-normal text-ink-2">of {title}</span>
      </h2>
    );
  return (
    <h2 className="flex min-w-0 flex-1 items-center gap-2 font-bold">
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

/** The page in a frame of the device's true width, scaled down to fit. It asks for itself anew after every write. */
function Frame(props: { product: number; listing: boolean | string; width: number; onPick: (field: string) => void }) {
  const { writes } = useSaving();
  const type = useQuery(ask.product(props.product)).data?.type;
  const box = useRef<HTMLDivElement>(null);
  const frame = useRef<HTMLIFrameElement>(null);
  const [size, setSize] = useState({ width: 400, height: 500 });
  const listing = typeof props.listing === "string" ? props.listing : type ? `/proof/type/${type}` : undefined;
  const src = props.listing ? listing : `/proof/product/${props.product}`;
  useEffect(() => {
    const observer = new ResizeObserver(
      ([entry]) => entry && setSize({ width: entry.contentRect.width, height: entry.contentRect.height }),
    );
    if (box.current) observer.observe(box.current);
    return () => observer.disconnect();
  }, []);
  useEffect(() => {
    if (writes > 0) frame.current?.contentWindow?.postMessage({ proof: "freshen" }, window.location.origin);
  }, [writes]);
  const pick = useRef(props.onPick);
  pick.current = props.onPick;
  useEffect(() => {
    function hear(event: MessageEvent) {
      if (event.origin === window.location.origin && typeof event.data?.pick === "string")
        pick.current(event.data.pick);
    }
    window.addEventListener("message", hear);
    return () => window.removeEventListener("message", hear);
  }, []);
  const scale = Math.min(1, size.width / props.width);
  return (
    <div ref={box} className="relative mx-3 mb-3 min-h-0 flex-1 overflow-hidden">
      {src && (
        <iframe
          ref={frame}
          key={src}
          title="The page as shoppers would see it"
          src={src}
          className="absolute top-0 rounded bg-white shadow"
          style={{
            width: props.width,
            height: size.height / scale,
            transform: `scale(${scale})`,
            transformOrigin: "top left",
            left: Math.max(0, (size.width - props.width * scale) / 2),
          }}
        />
      )}
    </div>
  );
}

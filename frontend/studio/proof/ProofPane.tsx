import { useQuery } from "@tanstack/react-query";
import { useEffect, useRef } from "react";
import { toast } from "sonner";
import type { Schemas } from "../api/client";
import { ask } from "../api/queries";
import { useSurfaces } from "../state/surfaces";
import { useAddress } from "../ui/address";
import { Empty } from "../ui/basics";
import { useKeys } from "../ui/keys";
import { ForAll } from "../ui/rights";
import { Select } from "../ui/Select";
import { Arrange } from "./Arrange";
import { DeviceFrame, deviceOf, WIDTHS } from "./DeviceFrame";
import { Examples } from "./Examples";
import { ProofTitle } from "./ProofTitle";
import { NotShown, WhyListed, WhyPanel } from "./Why";
import { Widths } from "./Widths";

/** The address's word for the listing a product stands on; all else it has there is the code of a surface. */
const LISTING = "listing";

/** Where a listing is proved that is not that of the product's type, and whether it is what is shown at first. */
export type ListingProof = { proof: string; noun: string; key: string; first?: boolean };

/** The draft of a product on any surface, or a listing, scaled to the pane; beside it what is live, and below it what does
 * not show and why. */
export function ProofPane(props: {
  product: number | null;
  field?: string;
  onPick?: (product: number) => void;
  listing?: ListingProof;
}) {
  const [device, setDevice] = useAddress("device");
  const [asked, setKind] = useAddress("proof");
  const [live, setLive] = useAddress("live");
  const [why, setWhy] = useAddress("why");
  const [on, setOn] = useAddress("on");
  const surfaces = useSurfaces();
  const usual = props.listing?.first ? LISTING : (surfaces.find(({ addressed }) => addressed)?.code ?? "");
  const kind = asked ?? usual;
  const chosen = deviceOf(device, "phone");
  const proved = kind === LISTING ? (surfaces.find(({ listed }) => listed)?.code ?? "") : kind;
  const surface = on ?? proved;
  const type = useQuery({ ...ask.product(props.product ?? 0), enabled: props.product !== null }).data?.type;
  usePicks(setWhy);
  useKeys({
    w: () =>
      props.field
        ? setWhy(props.field)
        : toast("Choose what to ask about", { description: "Press a field in the proof, or a name below it." }),
    escape: () => setWhy(null),
  });
  if (props.product === null)
    return <Empty title="No product to prove with">A product that has this shows here as shoppers would see it.</Empty>;
  const drafts = kind === LISTING ? listingOf(props.listing, type) : `/proof/surface/${kind}/${props.product}`;
  const listed = props.listing ?? (type ? { noun: "product_type", key: type } : null);
  const lives = kind === LISTING ? null : `/proof/live/${kind}/${props.product}`;
  const both = live === "1" && lives !== null;
  if (!kind) return null;
  return (
    <section className="@container flex min-h-0 flex-1 flex-col bg-[#e7eaf0]" aria-label="Proof">
      <header className="flex flex-none flex-wrap items-center gap-2 px-3 py-2">
        <ProofTitle product={props.product} onPick={props.onPick} />
        <span className="close ml-auto flex flex-wrap gap-1.5">
          <ProofOf surfaces={surfaces} value={kind} onChoose={(code) => setKind(code === usual ? null : code)} />
          <Widths value={chosen} usual="phone" onChoose={setDevice} />
          {lives !== null && (
            <button
              type="button"
              className="btn"
              aria-pressed={both}
              title="The page as it is live beside the draft, with what differs marked"
              onClick={() => setLive(both ? null : "1")}
            >
              Live
            </button>
          )}
        </span>
        {props.field && props.onPick && <Examples field={props.field} onPick={props.onPick} />}
      </header>
      <div className="flex min-h-0 flex-1">
        {both && (
          <Side words="Live">
            <DeviceFrame src={`${lives}?against=${drafts}`} title="The page as it is live" width={WIDTHS[chosen]} />
          </Side>
        )}
        {drafts && (
          <Side words={both ? "Draft" : ""}>
            <DeviceFrame
              src={both ? `${drafts}?against=${lives}` : drafts}
              title="The page as shoppers would see it"
              width={WIDTHS[chosen]}
            />
          </Side>
        )}
      </div>
      {kind === LISTING && listed && !why ? (
        <WhyListed product={props.product} noun={listed.noun} thing={listed.key} />
      ) : why ? (
        <WhyPanel
          about={{ product: props.product }}
          field={why}
          surface={surface}
          device={chosen}
          onSurface={setOn}
          onClose={() => setWhy(null)}
        />
      ) : (
        <NotShown
          product={props.product}
          surface={surface}
          device={chosen}
          onAsk={setWhy}
          action={
            <Arrange
              scope={`product:${props.product}`}
              surface={kind}
              words="Arrange"
              look="quiet"
              product={props.product}
            />
          }
        />
      )}
    </section>
  );
}

function listingOf(listing: ListingProof | undefined, type: string | undefined): string | undefined {
  return listing?.proof ?? (type ? `/proof/type/${type}` : undefined);
}

/** What is pressed in the page is asked about. */
export function usePicks(onPick: (field: string) => void) {
  const pick = useRef(onPick);
  pick.current = onPick;
  useEffect(() => {
    function hear(event: MessageEvent) {
      if (event.origin === window.location.origin && typeof event.data?.pick === "string")
        pick.current(event.data.pick);
    }
    window.addEventListener("message", hear);
    return () => window.removeEventListener("message", hear);
  }, []);
}

export function Side({ words, children }: { words: string; children: React.ReactNode }) {
  return (
    <div className="flex min-h-0 min-w-0 flex-1 flex-col">
      {words && <p className="px-3 pb-1 font-semibold text-ink-2">{words}</p>}
      {children}
    </div>
  );
}

function ProofOf(props: {
  surfaces: readonly Schemas["SurfaceOut"][];
  value: string;
  onChoose: (code: string) => void;
}) {
  return (
    <ForAll>
      <Select
        className="input !w-auto"
        aria-label="What is proved"
        value={props.value}
        onChange={(event) => props.onChoose(event.target.value)}
      >
        {props.surfaces.map((surface) => (
          <option key={surface.code} value={surface.code}>
            {surface.name}
          </option>
        ))}
        <option value={LISTING}>a listing</option>
      </Select>
    </ForAll>
  );
}

import { useQuery } from "@tanstack/react-query";
import { PRODUCT } from "../api/nouns";
import { ask } from "../api/queries";
import { useAddress } from "../ui/address";
import { Empty } from "../ui/basics";
import { DeviceFrame, deviceOf, WIDTHS } from "./DeviceFrame";
import { Side, usePicks } from "./ProofPane";
import { WhyPanel } from "./Why";
import { Widths } from "./Widths";

/** The page of a record of a type from the draft, and why a field is on it or is not. */
export function RecordProof({ type, field }: { type: string; field?: string }) {
  const example = useQuery(ask.example("record_type", type)).data;
  const surfaces = useQuery(ask.meta()).data?.surfaces ?? [];
  const [device, setDevice] = useAddress("device");
  const [why, setWhy] = useAddress("why");
  const [live, setLive] = useAddress("live");
  const chosen = deviceOf(device, "phone");
  usePicks(setWhy);
  if (!example) return null;
  if (!example.record) return <Empty title="No record to prove with">Make one in Fill, and its page shows here.</Empty>;
  const surface = surfaces.find(({ subject }) => subject !== PRODUCT)?.code ?? "";
  const asked = why ?? field;
  const [drafts, lives] = [`/proof/record/${example.record}`, `/proof/live/record/${example.record}`];
  const both = live === "1";
  return (
    <section className="@container flex min-h-0 flex-1 flex-col bg-[#e7eaf0]" aria-label="Proof">
      <header className="flex flex-none flex-wrap items-center gap-2 px-3 py-2">
        <b className="truncate">{example.title}</b>
        <span className="close ml-auto flex flex-wrap gap-1.5">
          <Widths value={chosen} usual="phone" onChoose={setDevice} />
          <button type="button" className="btn" aria-pressed={both} onClick={() => setLive(both ? null : "1")}>
            Live
          </button>
        </span>
      </header>
      <div className="flex min-h-0 flex-1">
        {both && (
          <Side words="Live">
            <DeviceFrame src={`${lives}?against=${drafts}`} title="The page as it is live" width={WIDTHS[chosen]} />
          </Side>
        )}
        <Side words={both ? "Draft" : ""}>
          <DeviceFrame
            src={both ? `${drafts}?against=${lives}` : drafts}
            title="The page of a record"
            width={WIDTHS[chosen]}
          />
        </Side>
      </div>
      {asked && (
        <WhyPanel
          about={{ record: example.record }}
          field={asked}
          surface={surface}
          device={chosen}
          onSurface={() => {}}
          onClose={() => setWhy(null)}
        />
      )}
    </section>
  );
}

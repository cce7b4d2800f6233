import { useQuery } from "@tanstack/react-query";
import { Link } from "react-router";
import { PRODUCT, placeOf } from "../../../api/nouns";
import { ask } from "../../../api/queries";
import { deviceOf } from "../../../proof/DeviceFrame";
import { MendBy } from "../../../proof/MendBy";
import { Steps } from "../../../proof/Why";
import type { Surface } from "../../../state/surfaces";
import { useAddress } from "../../../ui/address";
import { Button, counted, Line } from "../../../ui/basics";
import { Select } from "../../../ui/Select";
import { MEMBER_CONTROLS } from "./controls";
import { USUAL, useProved } from "./LayoutProof";
import { type Line as BlockLine, type Edit, type Kind, layoutOf, nameOf, placesOf, type View } from "./tree";

type Props = {
  view: View;
  line: BlockLine;
  surface: Surface | undefined;
  kinds: readonly Kind[];
  can: boolean;
  onEdit: (...edits: Edit[]) => Promise<View | null>;
  onMove: (id: string, by: -1 | 1) => void;
  onRemove: (id: string) => void;
  onCopy: (ids: ReadonlySet<string>) => void;
  /** Makes the words of a block a field or shared copy. */
  onLift: (id: string, what: Lift) => Promise<unknown>;
};

const LIFTS = { as_field: "a field", as_copy: "shared copy" } as const;
export type Lift = keyof typeof LIFTS;

/** All that can be said of a block, where it stands, and the way back to how the base has it. */
export function BlockPanel({ view, line, surface, kinds, can, onEdit, onMove, onRemove, onCopy, onLift }: Props) {
  const { placed, id } = line;
  const { block } = placed;
  const kind = kinds.find(({ code }) => code === block.kind);
  if (!kind) return <p className="wrongly py-3">There is no such kind of block any more.</p>;
  const put = (code: string, value: unknown) => onEdit({ op: "set", id, props: { [code]: value ?? null } });
  const places = placesOf(view, kinds, id);
  const inherited = placed.layout !== view.key;
  return (
    <fieldset disabled={!can} className="min-w-0 py-2">
      <header className="mb-1 flex items-baseline gap-2">
        <h3 className="truncate first-letter:uppercase">{nameOf(placed, kinds)}</h3>
        {nameOf(placed, kinds) !== kind.name && <span className="truncate text-ink-3">{kind.name}</span>}
        {inherited && (
          <Link className="link ml-auto flex-none text-[12px]" to={`${placeOf("layout", placed.layout)}?block=${id}`}>
            from its base
          </Link>
        )}
      </header>
      {placed.pages !== null && placed.pages > 0 && (
        <p className="mb-1 rounded bg-weld-tint px-2 py-1 text-weld-ink">
          The words typed here are the same on {block.condition ? "at most " : ""}
          {counted(placed.pages, "page")}.
        </p>
      )}
      <OnThisPage view={view} block={id} />
      {typeof block.words === "string" && (
        <div className="mb-1 flex flex-wrap gap-1.5">
          {placed.tokens ? (
            <p className="hint">
              With values of fields in it, it stays words: neither a field nor shared copy holds those.
            </p>
          ) : (
            liftsOn(kind, surface).map((what) => (
              <Button key={what} onClick={() => void onLift(id, what as Lift)}>
                Make this {LIFTS[what as Lift]}
              </Button>
            ))
          )}
        </div>
      )}
      {membersOn(kind, surface).map((member) => {
        const Control = MEMBER_CONTROLS[member.control];
        return (
          Control && (
            <Line key={member.code} label={member.name} note={member.help || undefined}>
              {(control) => (
                <Control
                  id={control}
                  member={member}
                  block={block}
                  subject={surface?.subject ?? PRODUCT}
                  kind={kind}
                  value={block[member.code]}
                  onPut={(value) => put(member.code, value)}
                  onParts={(count) => void onEdit({ op: "parts", id, count })}
                />
              )}
            </Line>
          )
        );
      })}
      <Line label="Stands in">
        {(control) => (
          <Select
            id={control}
            className="input"
            value={line.region}
            onChange={(event) =>
              void onEdit({ op: "move", id, region: event.target.value, after: lastIn(view, event.target.value) })
            }
          >
            {places.map(({ region, words }) => (
              <option key={region} value={region}>
                {words}
              </option>
            ))}
          </Select>
        )}
      </Line>
      <div className="mt-2 flex flex-wrap gap-1.5">
        <Button title="Alt ↑" onClick={() => onMove(id, -1)}>
          Earlier
        </Button>
        <Button title="Alt ↓" onClick={() => onMove(id, 1)}>
          Later
        </Button>
        {(["columns", "panels", "section"] as const)
          .flatMap((code) => kinds.filter((other) => other.code === code))
          .map((holder) => (
            <Button key={holder.code} onClick={() => void onEdit({ op: "wrap", id, kind: holder.code })}>
              Put into {holder.name}
            </Button>
          ))}
      </div>
      <div className="mt-3 flex flex-wrap gap-1.5">
        {inherited && placed.steps.length > 0 && (
          <Button onClick={() => void onEdit({ op: "follow", id })}>As its base has it</Button>
        )}
        {!kind.once && <Button onClick={() => onCopy(new Set([id]))}>Copy it</Button>}
        <Button look="danger" title="Delete" onClick={() => onRemove(id)}>
          Take it away
        </Button>
      </div>
    </fieldset>
  );
}

/** Whether the block shows on the page beside, and the first reason when it does not. */
function OnThisPage({ view, block }: { view: View; block: string }) {
  const { about } = useProved(view);
  const [open, setOpen] = useAddress("whyblock");
  const [address] = useAddress("device");
  const device = deviceOf(address, USUAL);
  const asked = ask.whyBlock(about ?? { product: 0 }, block, view.surface, layoutOf(view), device);
  const found = useQuery({ ...asked, enabled: about !== null }).data;
  if (!found) return null;
  const failed = found.steps.find((step) => step.ok === false);
  return (
    <div className="mb-1 rounded bg-cloth px-2 py-1">
      <p className="flex items-baseline gap-2">
        <span className="min-w-0 flex-1 text-ink-2">
          {failed ? `Not on this page: ${failed.text}` : "It shows on this page"}
          {failed?.mend?.says && (
            <>
              . <MendBy mend={failed.mend} of={found.field_name} />
            </>
          )}
        </span>
        <button
          type="button"
          className="link flex-none text-[12px]"
          aria-expanded={open === "1"}
          onClick={() => setOpen(open === "1" ? null : "1")}
        >
          why
        </button>
      </p>
      {open === "1" && <Steps steps={found.steps} of={found.field_name} />}
    </div>
  );
}

/** What can be said of a block on a surface. */
function membersOn(kind: Kind, surface: Surface | undefined) {
  return kind.members.filter(({ subjects }) => surface && subjects.includes(surface.subject));
}

/** What its words can be made there: only products have fields of their own for it. */
function liftsOn(kind: Kind, surface: Surface | undefined): string[] {
  return Object.keys(kind.becomes).filter((what) => what !== "as_field" || surface?.subject === PRODUCT);
}

function lastIn(view: View, region: string): string | null {
  const blocks = view.regions.find(({ id }) => id === region)?.blocks ?? [];
  const last = blocks.at(-1);
  return last ? String(last.block.id) : null;
}

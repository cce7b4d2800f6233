import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { toast } from "sonner";
import { client, data, type Schemas } from "../../../api/client";
import { UNDER_WAY, useSaving } from "../../../state/saving";
import { Button, counted, Dialog } from "../../../ui/basics";
import { Choices } from "../../../ui/Choices";
import { heldCount, heldWords } from "./heldWords";

type Props = { list: Schemas["ValueList"]; values: readonly Schemas["ListValue"][]; onClose: () => void };

/** Choose the value that stands for one or for several from now on; what that touches is told before it is done. */
export function MergeDialog({ list, values, onClose }: Props) {
  const codes = values.map(({ code }) => code);
  const [into, setInto] = useState<string | null>(null);
  const [merged, setMerged] = useState(false);
  const { save, undo } = useSaving();
  const ask = (apply: boolean) =>
    data(
      client.POST("/api/value_lists/{key}/merge", {
        params: { path: { key: list.key } },
        body: { codes: codes.filter((code) => code !== into), into: into ?? "", apply },
      }),
    );
  const touched = useQuery({
    queryKey: ["merge", list.key, codes, into],
    queryFn: () => ask(false),
    // What was merged is not asked about again.
    enabled: into !== null && !merged,
  });
  const other = list.values.find(({ code }) => code === into);
  // One of several may be the one that stays.
  const going = values.filter(({ code }) => code !== into);
  const single = going.length === 1;
  const gone = single ? (going[0]?.label ?? "") : counted(going.length, "value");
  async function merge() {
    setMerged(true);
    const done = await save(() => ask(true), { noun: "value_list" });
    if (!done) return setMerged(false);
    onClose();
    if (done.job) toast(`Under way: ${gone} into ${other?.label}`, { description: UNDER_WAY });
    else
      toast(`${gone} ${single ? "is" : "are"} merged into ${other?.label}`, {
        action: { label: "Undo", onClick: undo },
      });
  }
  return (
    <Dialog
      open
      onClose={onClose}
      title={single && !into ? `Merge ${gone} into another value` : `Merge ${gone} into ${other?.label ?? "one"}`}
      note="Every product, variant, condition and default that has one that goes gets the one that stays, which is read by their names too."
    >
      <Choices
        label="The value that stands for it"
        choices={codes.length === 1 ? list.values.filter(({ code }) => code !== codes[0]) : list.values}
        chosen={into ? [into] : []}
        onPick={setInto}
      />
      <div className="mt-2 min-h-[40px]" aria-live="polite">
        {touched.data && other && (
          <p>
            <b>{heldWords(touched.data.held)}</b> {heldCount(touched.data.held) === 1 ? "gets" : "get"} {other.label}
            {touched.data.definitions.length > 0 && `, and so ${asks(touched.data.definitions)}`}. {gone}{" "}
            {single ? "leaves" : "leave"} the list.
            {touched.data.made > 0 && made(touched.data, single ? gone : "them", other.label, single)}
          </p>
        )}
        {touched.error && (
          <p className="wrongly" role="alert">
            {touched.error.message}
          </p>
        )}
      </div>
      <div className="mt-3 flex justify-end gap-2">
        <Button onClick={onClose}>Leave it</Button>
        <Button look="primary" disabled={!touched.data} onClick={() => void merge()}>
          Merge
        </Button>
      </div>
    </Dialog>
  );
}

/** What becomes of variants made of the value, and of their stock. */
function made({ made: variants, meeting }: Schemas["MergeOut"], from: string, to: string, exact: boolean): string {
  // Those of several that go may meet one another besides.
  if (!exact)
    return ` ${counted(variants, "variant")} made of ${from} ${variants === 1 ? "is" : "are"} made of ${to} then; of those that become the same one is kept, with the stock of all added to it by the next release.`;
  const stay = variants - meeting;
  const kept = `${counted(stay, "variant")} made of ${from} ${stay === 1 ? "is" : "are"} made of ${to} then, with ${stay === 1 ? "its" : "their"} SKU, price and stock.`;
  const met = `${counted(meeting, "variant")} ${meeting === 1 ? "meets" : "meet"} one made of ${to} already and ${meeting === 1 ? "is" : "are"} retired: with the next release ${meeting === 1 ? "its" : "their"} stock is added to that one.`;
  return ` ${[stay > 0 && kept, meeting > 0 && met].filter(Boolean).join(" ")}`;
}

function asks(names: readonly string[]): string {
  return `${names.length === 1 ? "does" : "do"} ${names.slice(0, 4).join(", ")}${names.length > 4 ? " and others" : ""}`;
}

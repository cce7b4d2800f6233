import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { toast } from "sonner";
import { client, data, type Schemas } from "../../../api/client";
import { UNDER_WAY, useSaving } from "../../../state/saving";
import { Button, counted, Dialog } from "../../../ui/basics";
import { Choices } from "../../../ui/Choices";
import { heldCount, heldWords } from "./heldWords";

type Props = { list: Schemas["ValueList"]; value: Schemas["ListValue"]; onClose: () => void };

/** Choose the value that stands for this one from now on; what that touches is told before it is done. */
export function MergeDialog({ list, value, onClose }: Props) {
  const [into, setInto] = useState<string | null>(null);
  const { save, undo } = useSaving();
  const ask = (apply: boolean) =>
    data(
      client.POST("/api/value_lists/{key}/merge", {
        params: { path: { key: list.key } },
        body: { code: value.code, into: into ?? "", apply },
      }),
    );
  const touched = useQuery({
    queryKey: ["merge", list.key, value.code, into],
    queryFn: () => ask(false),
    enabled: into !== null,
  });
  const other = list.values.find(({ code }) => code === into);
  async function merge() {
    const done = await save(() => ask(true), { noun: "value_list" });
    if (!done) return;
    onClose();
    if (done.job) toast(`Under way: ${value.label} into ${other?.label}`, { description: UNDER_WAY });
    else toast(`${value.label} is merged into ${other?.label}`, { action: { label: "Undo", onClick: undo } });
  }
  return (
    <Dialog
      open
      onClose={onClose}
      title={`Merge ${value.label} into another value`}
      note="Every product, variant, condition and default that has it gets the other. Its names are read as the other from then on."
    >
      <Choices
        label="The value that stands for it"
        choices={list.values.filter(({ code }) => code !== value.code)}
        chosen={into ? [into] : []}
        onPick={setInto}
      />
      <div className="mt-2 min-h-[40px]" aria-live="polite">
        {touched.data && other && (
          <p>
            <b>{heldWords(touched.data.held)}</b> {heldCount(touched.data.held) === 1 ? "gets" : "get"} {other.label}
            {touched.data.definitions.length > 0 && `, and so ${asks(touched.data.definitions)}`}. {value.label} leaves
            the list.
            {touched.data.made > 0 && made(touched.data, value.label, other.label)}
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
function made({ made: variants, meeting }: Schemas["MergeOut"], from: string, to: string): string {
  const stay = variants - meeting;
  const kept = `${counted(stay, "variant")} made of ${from} ${stay === 1 ? "is" : "are"} made of ${to} then, with ${stay === 1 ? "its" : "their"} SKU, price and stock.`;
  const met = `${counted(meeting, "variant")} ${meeting === 1 ? "meets" : "meet"} one made of ${to} already and ${meeting === 1 ? "is" : "are"} retired: with the next release ${meeting === 1 ? "its" : "their"} stock is added to that one.`;
  return ` ${[stay > 0 && kept, meeting > 0 && met].filter(Boolean).join(" ")}`;
}

function asks(names: readonly string[]): string {
  return `${names.length === 1 ? "does" : "do"} ${names.slice(0, 4).join(", ")}${names.length > 4 ? " and others" : ""}`;
}

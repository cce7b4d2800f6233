import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { client, data } from "../api/client";
import { ask } from "../api/queries";
import { Button, counted, Dialog } from "../ui/basics";
import { number } from "../ui/locale";
import { ConditionBuilder } from "./ConditionBuilder";
import { fromTree, type Group, type Json, toTree } from "./tree";
import { useMatches } from "./useMatches";

type Props = {
  label: string;
  value: Json | null;
  onPut: (condition: Json | null) => void;
  /** What it is to have no condition, and the button that takes it away. */
  none?: string;
  off?: string;
};

/** A condition in plain words; pressed, it is made or changed in a dialog that counts who meets it. */
export function ConditionButton({ label, value, onPut, none = "always", off = "Always" }: Props) {
  const [open, setOpen] = useState(false);
  const reading = useReading(value);
  return (
    <>
      <button
        type="button"
        className="btn min-w-0 max-w-full"
        aria-label={`${label}: ${value ? (reading?.words ?? "…") : none}`}
        title={reading?.words}
        onClick={() => setOpen(true)}
      >
        <span className="truncate">{value ? (reading?.words ?? "…") : none}</span>
      </button>
      {open && (!value || reading) && (
        <ConditionDialog
          label={label}
          start={fromTree(value, reading?.tests ?? [])}
          some={value !== null}
          off={off}
          onPut={onPut}
          onClose={() => setOpen(false)}
        />
      )}
    </>
  );
}

/** A kept condition in words, and its tests as they are typed. */
function useReading(value: Json | null) {
  const mark = JSON.stringify(value);
  return useQuery({
    queryKey: ["reading", mark],
    enabled: value !== null,
    queryFn: () =>
      data(
        client.POST("/api/conditions/matches", { body: { condition: JSON.parse(mark), collection: null, after: 0 } }),
      ),
  }).data;
}

function ConditionDialog(props: {
  label: string;
  start: Group;
  some: boolean;
  off: string;
  onPut: (condition: Json | null) => void;
  onClose: () => void;
}) {
  const fields = useQuery(ask.askedFields()).data?.fields ?? [];
  const [group, setGroup] = useState(props.start);
  const look = useMatches(group, fields, null, true);
  const { tree, count } = toTree(group, fields);
  const ready = count > 0 && look.whole;
  function use(condition: Json | null) {
    props.onPut(condition);
    props.onClose();
  }
  const wrong = look.wrong.get("");
  return (
    <Dialog open onClose={props.onClose} title={props.label} note="Asked of each product, when its page is made.">
      <ConditionBuilder value={group} wrong={look.wrong} onChange={setGroup} onUse={() => ready && use(tree)} />
      <p className="mt-3 min-h-5" aria-live="polite">
        {wrong ? (
          <span className="wrongly">{wrong}</span>
        ) : count === 0 ? (
          <span className="hint">
            {group.parts.length > 0 ? "Say what it is compared with." : "Choose what to ask."}
          </span>
        ) : look.found ? (
          <>
            It holds for <b>{counted(look.found.count, "product")}</b>
            {look.found.done ? "" : ` of those looked at so far, ${number(look.found.first.length)} shown`}.
          </>
        ) : (
          <span className="hint">looking…</span>
        )}
      </p>
      <div className="mt-4 flex justify-end gap-2">
        <Button onClick={props.onClose}>Leave it</Button>
        {props.some && <Button onClick={() => use(null)}>{props.off}</Button>}
        <Button look="primary" disabled={!ready} title="Ctrl Enter" onClick={() => use(tree)}>
          Use it
        </Button>
      </div>
    </Dialog>
  );
}

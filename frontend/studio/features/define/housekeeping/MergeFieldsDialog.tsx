import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { Link } from "react-router";
import { toast } from "sonner";
import { client, data } from "../../../api/client";
import { placeOf } from "../../../api/nouns";
import { UNDER_WAY, useSaving } from "../../../state/saving";
import { Button, counted, Dialog, Segments } from "../../../ui/basics";

type Named = { key: string; name: string };
type Props = { pair: readonly [Named, Named]; onClose: () => void };

/** Two fields become one: which of them stays is chosen, and what moves is told before it does. */
export function MergeFieldsDialog({ pair: [first, second], onClose }: Props) {
  const [stays, setStays] = useState(second.key);
  const { save, undo } = useSaving();
  const [done, setDone] = useState(false);
  const names: Record<string, string> = { [first.key]: first.name, [second.key]: second.name };
  const goes = stays === first.key ? second.key : first.key;
  const ask = (apply: boolean) =>
    data(client.POST("/api/fields/{key}/merge", { params: { path: { key: goes } }, body: { into: stays, apply } }));
  const found = useQuery({
    queryKey: ["mergeFields", goes, stays],
    queryFn: () => ask(false),
    enabled: !done,
  });
  const touched = found.data;
  async function merge() {
    setDone(true);
    const merged = await save(() => ask(true), { noun: "field" });
    if (!merged) {
      setDone(false);
      return;
    }
    onClose();
    if (merged.job) toast(`Under way: ${names[goes]} into ${names[stays]}`, { description: UNDER_WAY });
    else toast(`${names[goes]} is merged into ${names[stays]}`, { action: { label: "Undo", onClick: undo } });
  }
  return (
    <Dialog
      open
      onClose={onClose}
      title={`Merge ${first.name} and ${second.name}`}
      note="Values, places in sets and types, needs and conditions move to the one that stays; the other is removed."
    >
      <p className="mb-1">Which one stays?</p>
      <Segments
        label="Which one stays?"
        value={stays}
        choices={[
          [second.key, second.name],
          [first.key, first.name],
        ]}
        onChoose={setStays}
      />
      <div className="mt-3 min-h-[60px]" aria-live="polite">
        {touched && (
          <>
            <p>
              <b>{counted(touched.moves, "value")}</b> {touched.moves === 1 ? "moves" : "move"} to {names[stays]}
              {touched.definitions.length > 0 && `, in ${touched.definitions.slice(0, 6).join(", ")} too`}.
            </p>
            {touched.differ.count > 0 && (
              <div className="wrongly mt-1" role="alert">
                {counted(touched.differ.count, touched.differ.name, touched.differ.name)}{" "}
                {touched.differ.count === 1 ? "has" : "have"} a value in both, and not the same: empty one of the two
                first.{" "}
                {touched.examples.map(({ noun, key, name }, index) => (
                  <span key={key}>
                    {index > 0 && ", "}
                    <Link className="link" to={placeOf(noun, `${key}/${goes}`)}>
                      {name}
                    </Link>
                  </span>
                ))}
              </div>
            )}
          </>
        )}
        {found.error && (
          <p className="wrongly" role="alert">
            {found.error.message}
          </p>
        )}
      </div>
      <div className="mt-3 flex justify-end gap-2">
        <Button onClick={onClose}>Leave it</Button>
        <Button look="primary" disabled={!touched || touched.differ.count > 0} onClick={() => void merge()}>
          Merge
        </Button>
      </div>
    </Dialog>
  );
}

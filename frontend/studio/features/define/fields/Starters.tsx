import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { Link } from "react-router";
import { client, data, type Refused, type Schemas } from "../../../api/client";
import { placeOf } from "../../../api/nouns";
import { ask } from "../../../api/queries";
import { useSaving } from "../../../state/saving";
import { Button, counted, Dialog } from "../../../ui/basics";
import { ranked } from "../../../ui/finding";
import { Tick } from "../../../ui/Ticked";
import { useTicks } from "../../../ui/useTicks";
import { Into } from "./NewField";

type Starter = Schemas["StarterOut"];

/** Ready definitions in groups, added by ticking. */
export function Starters({ onAdded }: { onAdded: (key: string) => Promise<void> }) {
  const [open, setOpen] = useState(false);
  return (
    <>
      <Button right="edit" onClick={() => setOpen(true)}>
        Starter fields
      </Button>
      {open && <StarterDialog onClose={() => setOpen(false)} onAdded={onAdded} />}
    </>
  );
}

function StarterDialog({ onClose, onAdded }: { onClose: () => void; onAdded: (key: string) => Promise<void> }) {
  const found = useQuery(ask.starters()).data?.fields ?? [];
  const [words, setWords] = useState("");
  const [into, setInto] = useState("");
  const [wrong, setWrong] = useState("");
  const { save } = useSaving();
  const groups = [...new Set(found.map(({ group }) => group))];
  const fits = ranked(found, words, ({ name, key, schema_org, help }) => ({
    name,
    also: [key, schema_org ?? ""],
    help,
  }));
  const free = (some: readonly Starter[]) => some.filter(({ there }) => there === null).map(({ key }) => key);
  const inGroups = groups.flatMap((group) => fits.filter((starter) => starter.group === group));
  const ticks = useTicks(free(found), free(inGroups));
  const ticked = [...ticks.ticked];
  async function add() {
    const [noun, key] = into.split("/");
    const done = await save(
      () =>
        data(
          client.POST("/api/fields/starters", {
            body: { keys: [...ticked], into: noun && key ? { noun, key } : null },
          }),
        ),
      {
        noun: "field",
        done: `${counted(ticked.length, "field")} added`,
        onRefused: ({ problem }: Refused) => setWrong(`${problem.message}. ${problem.help}`),
      },
    );
    if (!done) return;
    onClose();
    if (done.keys[0]) await onAdded(done.keys[0]);
  }
  return (
    <Dialog
      open
      onClose={onClose}
      title="Starter fields"
      note="What nearly every shop records. All that is added can be changed like any field of your own."
    >
      <input
        type="search"
        className="input mb-2"
        aria-label="Find a starter field"
        placeholder="Find a starter field"
        value={words}
        autoComplete="off"
        onChange={(event) => setWords(event.target.value)}
      />
      <div className="scroll max-h-[42vh] pr-2">
        {groups.map((group) => {
          const of = fits.filter((starter) => starter.group === group);
          const some = free(of);
          const all = some.every((key) => ticks.ticked.has(key));
          return of.length === 0 ? null : (
            <fieldset key={group} className="mb-3">
              <legend className="mb-1 font-semibold">
                {group}{" "}
                {some.length > 1 && (
                  <button type="button" className="link font-normal" onClick={() => ticks.put(some, !all)}>
                    {all ? "untick all" : `tick all ${some.length}`}
                  </button>
                )}
              </legend>
              {of.map((starter) => (
                <StarterLine
                  key={starter.key}
                  starter={starter}
                  ticked={ticks.ticked.has(starter.key)}
                  onTick={(range) => ticks.tick(starter.key, range)}
                />
              ))}
            </fieldset>
          );
        })}
        {fits.length === 0 && (
          <p className="hint">No starter field is like “{words}”. One of your own is made with New field.</p>
        )}
      </div>
      <div className="mt-3 flex items-center gap-2">
        <label htmlFor="starters-into" className="flex-none">
          Goes to
        </label>
        <Into id="starters-into" value={into} onChoose={setInto} />
        <Button onClick={onClose}>Leave it</Button>
        <Button look="primary" disabled={ticked.length === 0} onClick={() => void add()}>
          Add {ticked.length}
        </Button>
      </div>
      {wrong && (
        <p className="wrongly mt-2" role="alert">
          {wrong}
        </p>
      )}
    </Dialog>
  );
}

function StarterLine({
  starter,
  ticked,
  onTick,
}: {
  starter: Starter;
  ticked: boolean;
  onTick: (range: boolean) => void;
}) {
  const id = `starter-${starter.key}`;
  return (
    <div className="flex min-h-[26px] items-baseline gap-2">
      <Tick
        id={id}
        name={starter.name}
        className="relative top-[3px]"
        disabled={starter.there !== null}
        ticked={ticked || starter.there !== null}
        onTick={onTick}
      />
      <label htmlFor={id} className="w-[190px] flex-none">
        {starter.name}
      </label>
      <span className="text-ink-2">
        {starter.kind}
        {starter.schema_org && <span className="key"> {starter.schema_org}</span>}
        {starter.there !== null ? (
          <>
            {", "}
            <Link className="link" to={placeOf("field", starter.there)}>
              there already
            </Link>
          </>
        ) : (
          starter.help && <span className="text-ink-3"> · {starter.help}</span>
        )}
      </span>
    </div>
  );
}

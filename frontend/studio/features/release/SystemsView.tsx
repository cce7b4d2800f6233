import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { client, data, type Schemas } from "../../api/client";
import { ask } from "../../api/queries";
import { ago, useSaving } from "../../state/saving";
import { NewThing } from "../../things/NewThing";
import { Button, Dialog, Empty } from "../../ui/basics";
import { Opening } from "../../ui/Opening";
import { PaneHead } from "../../ui/Split";

type Key = Schemas["KeyOut"];

/** Who else reads what is live: the feed's address, and the keys other systems read it with. */
export default function SystemsView() {
  const { freshen } = useSaving();
  const found = useQuery(ask.keys()).data;
  const may = useQuery(ask.session()).data?.rights?.includes("release") ?? false;
  const [made, setMade] = useState<{ name: string; key: string } | null>(null);
  if (!found) return <Opening />;
  async function make(name: string) {
    const { key } = await data(client.POST("/api/keys", { body: { name } }));
    setMade({ name, key });
    await freshen("key");
  }
  return (
    <section className="flex min-h-0 flex-1 flex-col" aria-label="Other systems">
      <PaneHead title="Other systems" note="read what is live through the feed, each with a key of its own">
        {may && (
          <NewThing
            what="key"
            onMake={make}
            note={() => "Say which system it is for, such as the till or the printer"}
          />
        )}
      </PaneHead>
      <div className="scroll min-h-0 flex-1">
        <p className="band">
          The feed{" "}
          <span>· live products with the fields of its surface in the weave; it changes with each release</span>
        </p>
        <dl className="grid grid-cols-[130px_minmax(0,1fr)] gap-x-3 gap-y-1 px-[14px] py-3">
          <dt className="text-ink-2">Address</dt>
          <dd className="key break-all">{found.address}</dd>
          <dt className="text-ink-2">With the key</dt>
          <dd className="key break-all">Authorization: Bearer …</dd>
          <dt className="text-ink-2">As a table</dt>
          <dd className="key">?format=csv</dd>
          <dt className="text-ink-2">What changed</dt>
          <dd>
            <span className="key">?since=12</span>{" "}
            <span className="hint">only what is otherwise than with release 12, and what went since</span>
          </dd>
          <dt className="text-ink-2">In pages</dt>
          <dd>
            <span className="key">?limit=500</span>{" "}
            <span className="hint">the answer's Link leads to the next page, of the same release</span>
          </dd>
        </dl>
        <p className="band">Keys</p>
        {found.keys.length === 0 && (
          <Empty title="No key yet">
            {may ? "Make the first one: its name is the system it is for." : "Someone who may release can make one."}
          </Empty>
        )}
        <ul>
          {found.keys.map((key) => (
            <KeyRow key={key.id} row={key} may={may} />
          ))}
        </ul>
      </div>
      {made && <MadeKey made={made} onClose={() => setMade(null)} />}
    </section>
  );
}

function KeyRow({ row, may }: { row: Key; may: boolean }) {
  const { save } = useSaving();
  const [asking, setAsking] = useState(false);
  const past = (time: string) => ago(Date.now() - Date.parse(time));
  return (
    <li className="grid grid-cols-[minmax(0,1fr)_90px_minmax(0,1fr)_auto] items-center gap-3 border-b border-line px-[14px] py-2">
      <span className={`truncate font-semibold ${row.ended ? "text-ink-3 line-through" : ""}`} title={row.name}>
        {row.name}
      </span>
      <span className="key">… {row.tail}</span>
      <span className="truncate text-ink-3">
        {row.ended
          ? `ended ${past(row.ended)}`
          : `made by ${row.person} ${past(row.made)}, ${row.used ? `used ${past(row.used)}` : "never used"}`}
      </span>
      {row.ended ? (
        <span />
      ) : (
        <Button
          look="danger"
          disabled={!may}
          aria-label={`End it: the key of ${row.name}`}
          onClick={() => setAsking(true)}
        >
          End it
        </Button>
      )}
      <Dialog
        open={asking}
        onClose={() => setAsking(false)}
        title={`End the key of ${row.name}`}
        note="Whoever reads with it is refused at once. This can't be undone; another key can be made."
      >
        <div className="flex justify-end gap-2">
          <Button onClick={() => setAsking(false)}>Leave it</Button>
          <Button
            look="danger"
            onClick={() => {
              setAsking(false);
              void save(() => data(client.DELETE("/api/keys/{number}", { params: { path: { number: row.id } } })), {
                noun: "key",
              });
            }}
          >
            End it now
          </Button>
        </div>
      </Dialog>
    </li>
  );
}

function MadeKey({ made, onClose }: { made: { name: string; key: string }; onClose: () => void }) {
  const [copied, setCopied] = useState(false);
  return (
    <Dialog
      open
      fixed
      onClose={onClose}
      title={`The key of ${made.name}`}
      note="It is shown this once and kept nowhere: copy it to where it belongs now."
    >
      <output className="key block break-all rounded border border-line bg-cloth p-3" aria-label="The key">
        {made.key}
      </output>
      <div className="mt-4 flex items-center justify-end gap-2">
        <span className="hint" role="status">
          {copied ? "copied" : ""}
        </span>
        <Button
          onClick={() =>
            navigator.clipboard
              ?.writeText(made.key)
              .then(() => setCopied(true))
              .catch(() => setCopied(false))
          }
        >
          Copy
        </Button>
        <Button look="primary" onClick={onClose}>
          It is in its place
        </Button>
      </div>
    </Dialog>
  );
}

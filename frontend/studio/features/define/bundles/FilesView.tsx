import { useRef, useState } from "react";
import { Link } from "react-router";
import { client, data, type Refused, type Schemas } from "../../../api/client";
import { NOUNS, type NounCode, placeOf } from "../../../api/nouns";
import { useSaving } from "../../../state/saving";
import { TypeOptions } from "../../../things/TypeOptions";
import { Button, counted, Segments } from "../../../ui/basics";
import { focusOnceThere, nextIn } from "../../../ui/focus";
import { Input } from "../../../ui/inputs";
import { useMay } from "../../../ui/rights";
import { Select } from "../../../ui/Select";
import { PaneHead } from "../../../ui/Split";
import { useGrowing } from "../../../ui/useGrowing";

type Planned = Schemas["PlannedOut"];
type Read = { name: string; bundle: Record<string, unknown> };

const RECORD: NounCode = "record";
const HOWS: Record<string, string> = {
  new: "new",
  merged: "changed",
  clash: "the file says otherwise",
  same: "the same",
};

/** All that goes out, in words. */
const DEFINED = Object.entries(NOUNS)
  .filter(([code]) => code !== RECORD)
  .map(([, { title }], index) => (index > 0 ? title.toLowerCase() : title))
  .join(", ");

/** Definitions as files: all of them out, or a type with all it needs, and in again after a plan. */
export default function FilesView() {
  const [type, setType] = useState("");
  return (
    <div className="flex min-h-0 flex-1 flex-col bg-white">
      <PaneHead title="Files" note="definitions out as one document, and in again" />
      <div className="scroll min-h-0 flex-1 px-[14px] pb-6">
        <section aria-label="Out" className="border-b border-line pb-4">
          <h3>Out</h3>
          <p className="hint mt-1 max-w-[70ch]">
            {DEFINED} and display settings as JSON. Records, values of products, pictures and files stay here.{" "}
            <a className="link" href="/api/definitions/schema.json" download>
              Its JSON Schema
            </a>
          </p>
          <div className="mt-2 flex flex-wrap items-center gap-3">
            <label htmlFor="out-type">What</label>
            <Select
              id="out-type"
              className="input !w-72"
              value={type}
              onChange={(event) => setType(event.target.value)}
            >
              <option value="">all definitions</option>
              <TypeOptions />
            </Select>
            <a
              className="link"
              href={`/api/definitions.json${type ? `?type=${encodeURIComponent(type)}` : ""}`}
              download
            >
              Export {type ? "it with all it needs" : "them"}
            </a>
          </div>
        </section>
        <ImportSection />
      </div>
    </div>
  );
}

function ImportSection() {
  const may = useMay("edit");
  const { save, turns } = useSaving();
  const [read, setRead] = useState<Read | null>(null);
  const [planned, setPlanned] = useState<Planned[] | null>(null);
  const [fromFile, setFromFile] = useState(false);
  const [wrong, setWrong] = useState("");
  const section = useRef<HTMLElement>(null);
  // What was written is told until something is taken back.
  const [done, setDone] = useState<{ words: string; turns: number } | null>(null);
  const ask = (bundle: Read["bundle"], from_file: boolean, apply: boolean) =>
    data(client.POST("/api/definitions/import", { body: { bundle, from_file, apply } }));

  async function plan(next: Read, from: boolean) {
    setWrong("");
    try {
      setPlanned((await ask(next.bundle, from, false)).things);
    } catch (error) {
      const { message, problem } = error as Refused;
      setPlanned(null);
      setWrong(`${message}. ${problem?.help ?? ""}`);
    }
  }
  async function choose(file: File | undefined) {
    setDone(null);
    setPlanned(null);
    setRead(null);
    if (!file) return;
    try {
      const next = { name: file.name, bundle: JSON.parse(await file.text()) as Read["bundle"] };
      setRead(next);
      await plan(next, fromFile);
    } catch {
      setWrong("This is no JSON. Choose a file that was exported here");
    }
  }
  async function apply() {
    if (!read) return;
    const finished = await save(() => ask(read.bundle, fromFile, true), {
      done: `${read.name} is imported`,
      onRefused: ({ problem }) => setWrong(`${problem.message}. ${problem.help}`),
    });
    if (!finished) return;
    const written = finished.things.filter(({ lines }) => lines.length > 0).length;
    setDone({ words: `${counted(written, "definition")} written.`, turns });
    setPlanned(null);
    setRead(null);
    focusOnceThere(() => nextIn(section.current));
  }
  const writes = planned?.filter(({ lines }) => lines.length > 0).length ?? 0;
  const clashes = planned?.filter(({ how }) => how === "clash").length ?? 0;
  if (!may) return null;
  return (
    <section ref={section} aria-label="In" className="pt-4">
      <h3>In</h3>
      <p className="hint mt-1 max-w-[70ch]">
        Choose a file: what it comes to is told before anything is written. It is written whole or not at all, and
        undone in one stroke.
      </p>
      <Input
        type="file"
        accept=".json,application/json"
        aria-label="File of definitions"
        className="mt-2 block"
        onChange={(event) => void choose(event.target.files?.[0])}
      />
      <div aria-live="polite">
        {wrong && (
          <p className="wrongly mt-2" role="alert">
            {wrong}
          </p>
        )}
        {done && done.turns === turns && (
          <p className="mt-2">
            {done.words}{" "}
            <Link data-next className="link" to="/release/changes">
              See what they change on pages
            </Link>
          </p>
        )}
        {planned && read && (
          <>
            <p className="mt-3">
              <b>{read.name}</b>: {counted(planned.length, "definition")}, {writes} to write
              {clashes > 0 && `, ${clashes} where the file says otherwise`}.
            </p>
            {clashes > 0 && (
              <div className="mt-2 flex items-center gap-3">
                <span>Where the file says otherwise</span>
                <Segments
                  label="Where the file says otherwise"
                  value={fromFile ? "take" : "keep"}
                  choices={[
                    ["keep", "keep what stands"],
                    ["take", "take the file's"],
                  ]}
                  onChoose={(choice) => {
                    setFromFile(choice === "take");
                    void plan(read, choice === "take");
                  }}
                />
              </div>
            )}
            <Button look="primary" className="mt-3" disabled={writes === 0} onClick={() => void apply()}>
              Import {writes}
            </Button>
            <PlannedRows things={planned} />
          </>
        )}
      </div>
    </section>
  );
}

function PlannedRows({ things }: { things: readonly Planned[] }) {
  const differing = things.filter(({ how }) => how !== "same");
  const [shown, end] = useGrowing(differing.length);
  return (
    <>
      <table className="mt-3 w-full">
        <thead className="sr">
          <tr>
            <th>Definition</th>
            <th>What becomes of it</th>
            <th>Changes</th>
          </tr>
        </thead>
        <tbody>
          {differing.slice(0, shown).map((thing) => (
            <tr key={`${thing.noun} ${thing.key}`} className="border-t border-line align-baseline">
              <td className="w-[32%] py-1.5">
                {thing.how === "new" ? (
                  <b>{thing.name}</b>
                ) : (
                  <Link className="link font-semibold" to={placeOf(thing.noun, thing.key)}>
                    {thing.name}
                  </Link>
                )}{" "}
                <span className="text-ink-3">
                  {NOUNS[thing.noun as NounCode]?.what ?? thing.noun.replaceAll("_", " ")}
                </span>
              </td>
              <td className="w-[18%]">{HOWS[thing.how] ?? thing.how}</td>
              <td className="text-ink-2">
                {thing.lines.slice(0, 3).join(" · ") || "stays as it is"}
                {thing.how === "clash" && thing.lines.length === 0 && (
                  <span className="block text-ink-3">in the file: {thing.of_file.slice(0, 3).join(" · ")}</span>
                )}
              </td>
            </tr>
          ))}
        </tbody>
      </table>
      <div ref={end} />
      {things.length > differing.length && (
        <p className="hint mt-2">
          {counted(things.length - differing.length, "other is", "others are")} the same here.
        </p>
      )}
    </>
  );
}

import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { Link } from "react-router";
import type { Schemas } from "../../api/client";
import { placeOf } from "../../api/nouns";
import { ask } from "../../api/queries";
import { useDocumentWords } from "../../considering/Consequences";
import { useSurfaces } from "../../state/surfaces";
import { useAddress } from "../../ui/address";
import { Button, counted } from "../../ui/basics";
import { ForAll } from "../../ui/rights";
import { Select } from "../../ui/Select";
import { PaneHead } from "../../ui/Split";
import { Framed } from "./Framed";

type Release = Schemas["ReleaseOut"];
type Between = Schemas["BetweenOut"];

/** A release opened: what it changed against the one before or any other, what it left behind, and its pages before and after. */
export function PastRelease({ release, releases }: { release: Release; releases: readonly Release[] }) {
  const [asked, setAsked] = useAddress("against");
  const before = asked !== null && Number(asked) !== release.number ? Number(asked) : release.number - 1;
  const found = useQuery({ ...ask.between(before, release.number), enabled: before !== release.number });
  const words = useDocumentWords();
  return (
    <section className="flex min-h-0 flex-1 flex-col" aria-label={`Release ${release.number}`}>
      <PaneHead title={`Release ${release.number}`} note={found.data ? words(found.data.surfaces) : "looking…"}>
        <ForAll>
          <label className="flex items-center gap-1.5 text-ink-2">
            against
            <Select
              className="input !w-auto max-w-[220px]"
              value={String(before)}
              onChange={(event) =>
                setAsked(event.target.value === String(release.number - 1) ? null : event.target.value)
              }
            >
              {!releases.some(({ number }) => number === before) && (
                <option value={before}>{before === 0 ? "nothing, before the first" : `release ${before}`}</option>
              )}
              {releases
                .filter(({ number }) => number !== release.number)
                .map(({ number, note }) => (
                  <option key={number} value={number}>
                    {number}. {note || "without a note"}
                  </option>
                ))}
            </Select>
          </label>
        </ForAll>
      </PaneHead>
      {found.error && (
        <p className="wrongly px-[14px]" role="alert">
          {found.error.message}
        </p>
      )}
      {release.held_back.length > 0 && <LeftBehind rows={release.held_back as [number, string, string][]} />}
      {found.data && <BetweenThings found={found.data} />}
      {found.data && <Pages key={`${before} ${release.number}`} found={found.data} />}
    </section>
  );
}

/** The products that stayed as they were, each with why. */
function LeftBehind({ rows }: { rows: readonly [number, string, string][] }) {
  return (
    <ul className="scroll max-h-24 flex-none px-[14px] pb-2" aria-label="Left behind">
      {rows.map(([id, title, why]) => (
        <li key={id} className="text-madder">
          <Link className="link" to={placeOf("product", String(id))}>
            {title}
          </Link>{" "}
          stayed as it was: {why}
        </li>
      ))}
    </ul>
  );
}

/** What was otherwise, thing by thing, under headings. */
export function BetweenThings({ found, most }: { found: Between; most?: string }) {
  const groups = [...new Set(found.things.map(({ group }) => group))];
  if (found.count === 0) return <p className="hint px-[14px] pb-2">No definition and no product was otherwise.</p>;
  return (
    <div className={`scroll px-[14px] pb-2 ${most ?? "min-h-[120px] flex-1"}`}>
      {groups.map((group) => (
        <section key={group} aria-label={group} className="mb-2">
          <h3 className="text-[13px]">{group}</h3>
          <ul>
            {found.things
              .filter((thing) => thing.group === group)
              .map(({ noun, key, name, lines }) => (
                <li key={`${noun} ${key}`} className="break-words">
                  <Link className="link font-semibold" to={placeOf(noun, key)}>
                    {name}
                  </Link>{" "}
                  <span className="text-ink-2">{lines.slice(0, 4).join(" · ")}</span>
                  {lines.length > 4 && <span className="hint"> and {lines.length - 4} more</span>}
                </li>
              ))}
          </ul>
        </section>
      ))}
      {found.count > found.things.length && (
        <p className="hint">and {counted(found.count - found.things.length, "more thing")}</p>
      )}
    </div>
  );
}

/** The pages that were otherwise, before beside after. */
function Pages({ found }: { found: Between }) {
  const surfaces = useSurfaces();
  const [at, setAt] = useState(0);
  const { rows, whole } = found.differing;
  const row = rows[at];
  if (!row) return <p className="hint px-[14px] pb-3">No page or card was otherwise.</p>;
  const surface = surfaces.find(({ code, addressed }) => addressed && row.surfaces.includes(code))?.code;
  const code = surface ?? row.surfaces[0] ?? "";
  const page = (release: number, other: number) =>
    `/proof/at/${release}/${code}/${row.id}?against=/proof/at/${other}/${code}/${row.id}`;
  return (
    <section className="flex min-h-[300px] flex-[2] flex-col bg-[#e7eaf0] px-4 pb-4" aria-label="Before and after">
      <div className="flex min-h-[46px] flex-none items-center gap-2">
        <span className="min-w-0 truncate text-ink-2">
          on {row.title}, {at + 1} of {whole ? "" : "at least "}
          {rows.length} that differ
        </span>
        <span className="ml-auto flex flex-none gap-2">
          <Button aria-label="The one before" disabled={at === 0} onClick={() => setAt(at - 1)}>
            ‹
          </Button>
          <Button aria-label="The next one" disabled={at >= rows.length - 1} onClick={() => setAt(at + 1)}>
            ›
          </Button>
        </span>
      </div>
      <div className="grid min-h-0 flex-1 grid-cols-2 gap-3">
        <Framed
          key={`before ${row.id}`}
          title={found.before === 0 ? "Before the first" : `With release ${found.before}`}
          src={page(found.before, found.after)}
        />
        <Framed
          key={`after ${row.id}`}
          title={`With release ${found.after}`}
          src={page(found.after, found.before)}
          strong
        />
      </div>
    </section>
  );
}

import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import type { Schemas } from "../../../api/client";
import { ask } from "../../../api/queries";
import { OPTION_CONTROLS, putFrom } from "../../../controls/options";
import type { Changes } from "../../../state/things";
import { Line, Segments } from "../../../ui/basics";
import { capital } from "../../../ui/locale";
import { Select } from "../../../ui/Select";

type Kind = Schemas["KindOut"];
/** Members of a field to change, or how they come of it as it stands. */
export type FieldChanges = Changes<"field"> | ((field: Schemas["Field"]) => Changes<"field">);
type Props = {
  field: Schemas["Field"];
  /** How many things have a value for it. */
  filled: number;
  meta: Schemas["MetaOut"];
  wrongAt: (where: string) => string | null;
  onPut: (changes: FieldChanges, options?: { risky?: boolean }) => void;
};

/** What a field that takes a kind says besides: what it said already, where the kind asks for it. */
export function keptOptions(kind: Kind, options: Record<string, unknown>): Record<string, unknown> {
  return Object.fromEntries(
    kind.options.filter(({ code }) => code in options).map(({ code }) => [code, options[code]]),
  );
}

/** How many of the values looked at a kind would take. */
function fitWords(fits: Schemas["FitsOut"] | undefined, code: string): string {
  const taken = fits?.kinds[code];
  if (!fits?.looked || taken === undefined) return "";
  return taken === fits.looked ? ": all values fit" : `: ${taken} of ${fits.looked} values fit`;
}

/** The kind of a field, whether it holds many, and what the kind asks for. A kind that asks for more waits for it. */
export function KindLines({ field, filled, meta, wrongAt, onPut }: Props) {
  const [waiting, setWaiting] = useState<string | null>(null);
  const fits = useQuery({ ...ask.fits(field.key), enabled: filled > 0 }).data;
  const chosen = waiting ?? field.kind;
  const kind = meta.kinds.find(({ code }) => code === chosen);
  function take(to: Kind, options: Record<string, unknown>) {
    setWaiting(null);
    const kept = meta.schema_org.find(({ code }) => code === field.schema_org);
    const schema_org = kept && to.shapes.includes(kept.shape) ? kept.code : "";
    const many = to.takes_many && field.many;
    onPut({ kind: to.code, options, many, limits: {}, default: null, schema_org }, { risky: true });
  }
  function choose(code: string) {
    const to = meta.kinds.find((other) => other.code === code);
    if (!to) return;
    const options = keptOptions(to, field.options);
    if (code === field.kind) setWaiting(null);
    else if (to.options.every((option) => !option.needed || option.code in options)) take(to, options);
    else setWaiting(code);
  }
  return (
    <>
      <Line
        label="Kind"
        wrong={wrongAt("kind") ?? wrongAt("many")}
        note={waiting ? "It is taken once what it asks for is chosen below" : undefined}
      >
        {(id) => (
          <div className="flex gap-2">
            <Select id={id} className="input" value={chosen} onChange={(event) => choose(event.target.value)}>
              {meta.kinds
                .filter((other) => other.own_fields)
                .map(({ code, name }) => (
                  <option key={code} value={code}>
                    {name}
                    {code === field.kind ? "" : fitWords(fits, code)}
                  </option>
                ))}
            </Select>
            {kind?.takes_many && !waiting && (
              <Segments
                label="How many values"
                value={field.many ? "many" : "one"}
                choices={[
                  ["one", "one"],
                  ["many", "many"],
                ]}
                onChoose={(answer) =>
                  onPut({ many: answer === "many", ...(answer === "many" && { default: null }) }, { risky: true })
                }
              />
            )}
          </div>
        )}
      </Line>
      {kind?.options.map((option) => {
        const control = OPTION_CONTROLS[option.control];
        const value = field.options[option.code];
        if (!control) return null;
        const put = (next: unknown) => {
          const options = (now: Record<string, unknown>) => ({
            ...keptOptions(kind, now),
            [option.code]: putFrom(next, now[option.code]),
          });
          if (waiting) take(kind, options(field.options));
          else onPut((now) => ({ options: options(now.options) }), { risky: true });
        };
        const { Note } = control;
        return (
          <Line
            key={option.code}
            label={capital(option.label)}
            wide={control.wide}
            wrong={wrongAt(option.code)}
            note={typeof value === "string" && Note && !waiting ? <Note value={value} /> : undefined}
          >
            {(id) => <control.Control id={id} value={value ?? null} meta={meta} onPut={put} />}
          </Line>
        );
      })}
    </>
  );
}

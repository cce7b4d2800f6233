import { useQuery } from "@tanstack/react-query";
import type { Schemas } from "../api/client";
import { PRODUCT } from "../api/nouns";
import { ask } from "../api/queries";
import { Line } from "../ui/basics";
import { Input } from "../ui/inputs";
import { capital } from "../ui/locale";
import { TextBox } from "../ui/TextBox";

type Limit = Schemas["LimitOut"];
type Limits = Record<string, unknown>;

/** A limit and the one it may not exceed stand in one line. */
export function limitLines(limits: readonly Limit[]): Limit[][] {
  const uppers = new Set(limits.map((limit) => limit.below));
  return limits
    .filter((limit) => !uppers.has(limit.code))
    .map((limit) => [limit, ...limits.filter((other) => other.code === limit.below)]);
}

type Box = {
  mono?: boolean;
  inputMode?: "decimal" | "numeric";
  note?: string;
  read: (text: string) => unknown;
  /** For limits that are not typed. */
  Control?: (props: { label: string; value: unknown; onPut: (value: unknown) => void }) => React.ReactNode;
};

type TickProps = { label: string; value: unknown; onPut: (value: unknown) => void };

/** The sorts of file a field takes, by ticking; none ticked is all of them. */
function FileTypes(props: TickProps) {
  const types = useQuery(ask.meta()).data?.file_types ?? [];
  return <Ticks {...props} types={types} />;
}

/** The sorts of file shoppers can send. */
function Uploads(props: TickProps) {
  const uploads = useQuery(ask.meta()).data?.uploads ?? [];
  return <Ticks {...props} types={uploads.map(({ value, label }) => ({ code: String(value), label }))} />;
}

function Ticks({ label, value, onPut, types }: TickProps & { types: readonly { code: string; label: string }[] }) {
  const chosen = Array.isArray(value) ? (value as string[]) : [];
  return (
    <fieldset className="flex flex-wrap gap-x-3.5" aria-label={label}>
      {types.map(({ code, label }) => (
        <label key={code} className="flex min-h-[26px] items-center gap-1.5">
          <Input
            type="checkbox"
            className="tick"
            checked={chosen.includes(code)}
            onChange={() => {
              const next = types
                .map((type) => type.code)
                .filter((other) => (other === code ? !chosen.includes(code) : chosen.includes(other)));
              onPut(next.length ? next : null);
            }}
          />
          {label}
        </label>
      ))}
    </fieldset>
  );
}

/** A limit that holds or does not. */
function Tick({ label, value, onPut }: TickProps) {
  return (
    <Input
      type="checkbox"
      className="tick"
      aria-label={label}
      checked={value === true}
      onChange={(event) => onPut(event.target.checked ? true : null)}
    />
  );
}

/** The controls that limits name. Digits that are no number go as typed: the server says what is wrong with them. */
const LIMIT_CONTROLS: Record<string, Box> = {
  number: { inputMode: "decimal", read: (text) => text },
  count: { inputMode: "numeric", read: (text) => (/^\d+$/.test(text) ? Number(text) : text) },
  pattern: { mono: true, note: "The whole value must match, such as P[A-Z]+[0-9]+", read: (text) => text },
  tick: { read: (text) => text, Control: Tick },
  uploads: { note: "Pictures alone where none is ticked", read: (text) => text, Control: Uploads },
  file_types: { note: "All of them where none is ticked", read: (text) => text, Control: FileTypes },
};

/** The limits a field of this kind can have. */
export function LimitsEditor(props: {
  field: Pick<Schemas["Field"], "limits" | "many"> & { subject?: string };
  kind?: Schemas["KindOut"];
  wrongAt: (where: string) => string | null;
  onPut: (limits: Limits) => void;
}) {
  const { field, kind, wrongAt } = props;
  const offered = (kind?.limits ?? []).filter(
    (limit) => (limit.many ? field.many : true) && (limit.alone ? !field.many && field.subject === PRODUCT : true),
  );
  function put(limit: Limit, value: unknown) {
    const { [limit.code]: _, ...rest } = field.limits;
    props.onPut(value === null ? rest : { ...rest, [limit.code]: value });
  }
  function type(limit: Limit, text: string) {
    const trimmed = text.trim();
    put(limit, trimmed === "" ? null : (LIMIT_CONTROLS[limit.control]?.read(trimmed) ?? trimmed));
  }
  const shown = (limit: Limit) => {
    const value = field.limits[limit.code];
    return value === null || value === undefined ? "" : String(value);
  };
  return limitLines(offered).map((line) => {
    const [low, high] = line as [Limit, Limit?];
    const Control = LIMIT_CONTROLS[low.control]?.Control;
    return (
      <Line
        key={low.code}
        label={capital(low.label)}
        wrong={wrongAt(low.code) ?? (high ? wrongAt(high.code) : null)}
        note={LIMIT_CONTROLS[low.control]?.note}
      >
        {(id) =>
          Control ? (
            <Control label={capital(low.label)} value={field.limits[low.code]} onPut={(value) => put(low, value)} />
          ) : (
            <div className="flex items-center gap-2">
              {line.map((limit, index) => {
                const control = LIMIT_CONTROLS[limit.control];
                return (
                  <div key={limit.code} className="contents">
                    {index > 0 && <span className="flex-none text-ink-3">{limit.label}</span>}
                    <TextBox
                      id={index === 0 ? id : undefined}
                      aria-label={capital(limit.label)}
                      className={control?.mono ? "font-mono" : ""}
                      inputMode={control?.inputMode}
                      placeholder="any"
                      wrong={wrongAt(limit.code) !== null}
                      value={shown(limit)}
                      onCommit={(text) => type(limit, text)}
                    />
                  </div>
                );
              })}
            </div>
          )
        }
      </Line>
    );
  });
}

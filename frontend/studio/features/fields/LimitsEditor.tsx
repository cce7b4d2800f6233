import type { Schemas } from "../../api/client";
import { Line } from "../../ui/basics";
import { capital } from "../../ui/locale";
import { TextBox } from "../../ui/TextBox";

type Limit = Schemas["LimitOut"];
type Limits = Record<string, unknown>;

/** A limit and the one it may not exceed stand in one line. */
export function limitLines(limits: readonly Limit[]): Limit[][] {
  const uppers = new Set(limits.map((limit) => limit.below));
  return limits
    .filter((limit) => !uppers.has(limit.code))
    .map((limit) => [limit, ...limits.filter((other) => other.code === limit.below)]);
}

type Box = { mono?: boolean; inputMode?: "decimal" | "numeric"; note?: string; read: (text: string) => unknown };

/** The controls that limits name. Digits that are no number go as typed: the server says what is wrong with them. */
const LIMIT_CONTROLS: Record<string, Box> = {
  number: { inputMode: "decimal", read: (text) => text },
  count: { inputMode: "numeric", read: (text) => (/^\d+$/.test(text) ? Number(text) : text) },
  pattern: { mono: true, note: "The whole value must match, such as P[A-Z]+[0-9]+", read: (text) => text },
};

/** The limits a field of this kind can have. */
export function LimitsEditor(props: {
  field: Schemas["Field"];
  kind?: Schemas["KindOut"];
  wrongAt: (where: string) => string | null;
  onPut: (limits: Limits) => void;
}) {
  const { field, kind, wrongAt } = props;
  const offered = (kind?.limits ?? []).filter((limit) => !limit.many || field.many);
  function put(limit: Limit, text: string) {
    const { [limit.code]: _, ...rest } = field.limits;
    const trimmed = text.trim();
    const control = LIMIT_CONTROLS[limit.control];
    props.onPut(trimmed === "" ? rest : { ...rest, [limit.code]: control ? control.read(trimmed) : trimmed });
  }
  const shown = (limit: Limit) => {
    const value = field.limits[limit.code];
    return value === null || value === undefined ? "" : String(value);
  };
  return limitLines(offered).map((line) => {
    const [low, high] = line as [Limit, Limit?];
    return (
      <Line
        key={low.code}
        label={capital(low.label)}
        wrong={wrongAt(low.code) ?? (high ? wrongAt(high.code) : null)}
        note={LIMIT_CONTROLS[low.control]?.note}
      >
        {(id) => (
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
                    onCommit={(text) => put(limit, text)}
                  />
                </div>
              );
            })}
          </div>
        )}
      </Line>
    );
  });
}

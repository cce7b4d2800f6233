import type { Schemas } from "../../../api/client";
import { SwatchMark } from "../../../ui/SwatchMark";
import { TextBox } from "../../../ui/TextBox";

type Option = Schemas["TriedOptionOut"];
type Props = {
  options: readonly Option[];
  choices: Record<string, unknown>;
  problems: readonly Schemas["ToldProblem"][];
  onChoose: (key: string, value: unknown) => void;
};

/** Every option with the control it wants; what can't be had says why. */
export function Chooser({ options, choices, problems, onChoose }: Props) {
  return options.map((option) => {
    const wrong = problems.find((problem) => problem.option === option.key);
    const chosen = choices[option.key];
    return (
      <fieldset key={option.key} className="mb-3 min-w-0">
        <legend className="mb-1 text-ink-2">
          {option.name}
          {option.chooses && option.words ? (
            <>
              : <b className="text-ink">{option.words}</b>
            </>
          ) : option.required ? (
            ""
          ) : (
            " optional"
          )}
        </legend>
        {option.description && <p className="hint mb-1">{option.description}</p>}
        {option.chooses ? (
          <Values option={option} chosen={chosen} onChoose={(value) => onChoose(option.key, value)} />
        ) : (
          <Request option={option} value={chosen} onPut={(value) => onChoose(option.key, value)} />
        )}
        {wrong && wrong.code !== "required" && (
          <p className="wrongly mt-1" role="status">
            {wrong.message}. {wrong.help}
          </p>
        )}
      </fieldset>
    );
  });
}

function Values(props: { option: Option; chosen: unknown; onChoose: (value: unknown) => void }) {
  const { option, chosen } = props;
  const several = option.several ? ((chosen as string[] | undefined) ?? []) : [];
  const swatches = option.values.some((value) => value.swatch.picture || (value.swatch.colours ?? []).length > 0);
  return (
    <div className="flex flex-wrap gap-1.5">
      {option.values.map((value) => {
        const pressed = option.several ? several.includes(value.code) : chosen === value.code;
        const next = option.several
          ? pressed
            ? several.filter((code) => code !== value.code)
            : [...several, value.code]
          : pressed && !option.required
            ? ""
            : value.code;
        return (
          <button
            key={value.code}
            type="button"
            className={`choice ${value.state}`}
            aria-pressed={pressed}
            aria-label={value.words ? `${value.label}: ${value.words}` : value.label}
            title={[value.label, value.effect, value.words].filter(Boolean).join(" · ")}
            onClick={() => props.onChoose(next)}
          >
            {swatches && (value.swatch.picture || (value.swatch.colours ?? []).length > 0) ? (
              <SwatchMark swatch={value.swatch} size={22} />
            ) : (
              value.label
            )}
          </button>
        );
      })}
    </div>
  );
}

type RequestProps = { option: Option; value: unknown; onPut: (value: unknown) => void };

function Request(props: RequestProps) {
  const Control = CONTROLS[props.option.control] ?? Line;
  return <Control {...props} />;
}

const textOf = (value: unknown) => (typeof value === "string" ? value : "");

function Line({ option, value, onPut }: RequestProps) {
  return <TextBox aria-label={option.name} value={textOf(value)} onCommit={onPut} />;
}

function Lines({ option, value, onPut }: RequestProps) {
  return <TextBox aria-label={option.name} rows={3} value={textOf(value)} onCommit={onPut} />;
}

function Day({ option, value, onPut }: RequestProps) {
  return (
    <input
      type="date"
      className="input !w-44"
      aria-label={option.name}
      value={textOf(value)}
      onChange={(event) => onPut(event.target.value)}
    />
  );
}

function Tick({ value, onPut }: RequestProps) {
  return (
    <label className="flex items-center gap-1.5">
      <input
        type="checkbox"
        className="tick"
        checked={value === "yes"}
        onChange={(event) => onPut(event.target.checked ? "yes" : "")}
      />
      yes
    </label>
  );
}

function Upload() {
  return <p className="hint">Shoppers send a file here.</p>;
}

/** The controls that what shoppers give is given with; values that are picked have their own. */
const CONTROLS: Record<string, (props: RequestProps) => React.ReactNode> = {
  line: Line,
  lines: Lines,
  day: Day,
  upload: Upload,
  tick: Tick,
};

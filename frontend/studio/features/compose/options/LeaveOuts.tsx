import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import type { Things } from "../../../api/nouns";
import { ask } from "../../../api/queries";
import type { Changes } from "../../../state/things";
import { Button, counted } from "../../../ui/basics";
import { Input } from "../../../ui/inputs";
import { useMay } from "../../../ui/rights";
import { Select } from "../../../ui/Select";
import { type Rule, toggledCell, without, wordsOf } from "./leaveOuts";
import { type OptionSet, useMakers } from "./useOptionSet";

type Put = (change: (now: OptionSet) => Changes<"option_set">, title: string) => void;
type Axis = { key: string; name: string; values: { code: string; label: string }[] };

/** Combinations that are not made: ticked on a grid of two options at a time, and as rules of any number of them. */
export function LeaveOuts({ row, put }: { row: Things["option_set"]; put: Put }) {
  const lists = useQuery(ask.things("value_list")).data ?? [];
  const makes = useMakers();
  const axes: Axis[] = (row.thing.options ?? [])
    .filter((option) => makes(option.kind))
    .map((option) => {
      const list = lists.find(({ thing }) => thing.key === option.list)?.thing;
      const values =
        option.takes === "grows"
          ? (list?.values ?? []).filter((value) => !value.retired)
          : (option.values ?? []).map((value) => list?.values.find((other) => other.code === value.code) ?? value);
      return {
        key: option.key,
        name: option.name,
        values: values.map(({ code, label }) => ({ code, label: label || code })),
      };
    });
  const rules: Rule[] = row.thing.left_out ?? [];
  const [pair, setPair] = useState<[number, number]>([0, 1]);
  const across = axes[pair[1]] ?? axes[1];
  const down = axes[pair[0]] ?? axes[0];
  const name = (key: string) => axes.find((axis) => axis.key === key)?.name ?? key;
  const label = (key: string, code: string) =>
    axes.find((axis) => axis.key === key)?.values.find((value) => value.code === code)?.label ?? code;
  return (
    <section className="mt-5" aria-label="Left out">
      <p className="band !px-0">
        Left out <span>· combinations that are not made</span>
      </p>
      {down && across && down !== across ? (
        <>
          {axes.length > 2 && (
            <p className="mb-2 flex items-center gap-2 text-ink-2">
              Rows
              <AxisChoice
                axes={axes}
                label="Options in rows"
                at={axes.indexOf(down)}
                onChoose={(at) => setPair(at === pair[1] ? [at, pair[0]] : [at, pair[1]])}
              />
              columns
              <AxisChoice
                axes={axes}
                label="Options in columns"
                at={axes.indexOf(across)}
                onChoose={(at) => setPair(at === pair[0] ? [pair[1], at] : [pair[0], at])}
              />
            </p>
          )}
          <Grid
            down={down}
            across={across}
            rules={rules}
            onToggle={(row, column) =>
              put(
                (now) => ({
                  left_out: toggledCell(now.left_out ?? [], down.key, row, across.key, column) as OptionSet["left_out"],
                }),
                "What is left out changed",
              )
            }
          />
        </>
      ) : (
        <p className="hint">With a second option that makes variants, what is left out is ticked here on a grid.</p>
      )}
      {rules.length > 0 && (
        <ul className="mt-3" aria-label="Rules of what is left out">
          {rules.map((rule, index) => (
            <li key={JSON.stringify(rule)} className="flex items-center gap-2 border-b border-line py-0.5">
              <span className="min-w-0 flex-1 truncate">{wordsOf(rule, name, label)}</span>
              <Button
                right="edit"
                look="quiet"
                aria-label={`Take off: ${wordsOf(rule, name, label)}`}
                onClick={() =>
                  put((now) => ({ left_out: without(now.left_out ?? [], rule, index) }), "What is left out changed")
                }
              >
                Take off
              </Button>
            </li>
          ))}
        </ul>
      )}
      {axes.length > 0 && <NewRule axes={axes} put={put} />}
    </section>
  );
}

function AxisChoice(props: { axes: Axis[]; label: string; at: number; onChoose: (at: number) => void }) {
  return (
    <Select
      className="input !w-auto"
      aria-label={props.label}
      value={props.at}
      onChange={(event) => props.onChoose(Number(event.target.value))}
    >
      {props.axes.map((axis, index) => (
        <option key={axis.key} value={index}>
          {axis.name}
        </option>
      ))}
    </Select>
  );
}

const MOST_CELLS = 4000;

/** A grid of two options: a cell pressed leaves that pair out, or no longer. Arrows move, Space presses. */
function Grid(props: {
  down: Axis;
  across: Axis;
  rules: readonly Rule[];
  onToggle: (row: string, column: string) => void;
}) {
  const { down, across, rules } = props;
  const may = useMay("edit");
  if (down.values.length * across.values.length > MOST_CELLS)
    return <p className="hint">There are too many pairs for a grid: use rules, below.</p>;
  const whole = new Set<string>();
  const other = new Set<string>();
  for (const rule of rules) {
    const keys = Object.keys(rule);
    const within = keys.every((key) => key === down.key || key === across.key);
    if (!within) continue;
    for (const row of rule[down.key] ?? down.values.map((value) => value.code))
      for (const column of rule[across.key] ?? across.values.map((value) => value.code))
        (keys.length === 2 ? whole : other).add(`${row} ${column}`);
  }
  function move(event: React.KeyboardEvent<HTMLTableElement>) {
    const step = { ArrowUp: -1, ArrowDown: 1, ArrowLeft: 0, ArrowRight: 0 }[event.key];
    if (step === undefined) return;
    const buttons = [...event.currentTarget.querySelectorAll<HTMLButtonElement>("button")];
    const at = buttons.indexOf(document.activeElement as HTMLButtonElement);
    if (at < 0) return;
    event.preventDefault();
    const wide = across.values.length;
    const by = event.key === "ArrowLeft" ? -1 : event.key === "ArrowRight" ? 1 : step * wide;
    buttons[at + by]?.focus();
  }
  return (
    <div className="scroll max-h-[360px] overflow-auto">
      <table className="left-out" aria-label={`${down.name} by ${across.name}`} onKeyDown={move}>
        <thead>
          <tr>
            <td />
            {across.values.map((value) => (
              <th key={value.code} scope="col">
                {value.label}
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          {down.values.map((value, row) => (
            <tr key={value.code}>
              <th scope="row">{value.label}</th>
              {across.values.map((column, at) => {
                const id = `${value.code} ${column.code}`;
                const state = whole.has(id) ? "left" : other.has(id) ? "other" : "made";
                return (
                  <td key={column.code}>
                    <button
                      type="button"
                      className={`cell-${state}`}
                      tabIndex={row === 0 && at === 0 ? 0 : -1}
                      aria-pressed={state !== "made"}
                      aria-label={`${value.label}, ${column.label}: ${state === "made" ? "made" : state === "left" ? "left out" : "left out by another rule"}`}
                      title={state === "other" ? "Left out by another rule, below" : undefined}
                      disabled={state === "other" || !may}
                      onClick={() => props.onToggle(value.code, column.code)}
                    />
                  </td>
                );
              })}
            </tr>
          ))}
        </tbody>
      </table>
      <p className="hint mt-1">{counted(whole.size + other.size, "pair")} left out</p>
    </div>
  );
}

/** A rule of any number of options: what has one of the ticked values of each is not made. */
function NewRule({ axes, put }: { axes: Axis[]; put: Put }) {
  const [open, setOpen] = useState(false);
  const [ticked, setTicked] = useState<Rule>({});
  const tick = (key: string, code: string) =>
    setTicked((old) => {
      const codes = old[key] ?? [];
      const next = codes.includes(code) ? codes.filter((other) => other !== code) : [...codes, code];
      const { [key]: _, ...rest } = old;
      return next.length > 0 ? { ...rest, [key]: next } : rest;
    });
  if (!open)
    return (
      <Button right="edit" className="mt-2" onClick={() => setOpen(true)}>
        Add a rule
      </Button>
    );
  const ready = Object.keys(ticked).length > 0;
  return (
    <div className="mt-2 rounded-md border border-line p-3">
      <p className="hint">A combination is left out that has a ticked value of every option where one is ticked.</p>
      <div className="mt-2 grid grid-cols-[repeat(auto-fill,minmax(150px,1fr))] gap-3">
        {axes.map((axis) => (
          <fieldset key={axis.key} className="scroll max-h-44">
            <legend className="font-semibold">{axis.name}</legend>
            {axis.values.map((value) => (
              <label key={value.code} className="flex min-h-6 items-center gap-1.5">
                <Input
                  type="checkbox"
                  className="tick"
                  checked={ticked[axis.key]?.includes(value.code) ?? false}
                  onChange={() => tick(axis.key, value.code)}
                />
                {value.label}
              </label>
            ))}
          </fieldset>
        ))}
      </div>
      <div className="mt-3 flex justify-end gap-2">
        <Button
          onClick={() => {
            setOpen(false);
            setTicked({});
          }}
        >
          Leave it
        </Button>
        <Button
          look="primary"
          disabled={!ready}
          onClick={() => {
            put(
              (now) => ({ left_out: [...(now.left_out ?? []), ticked] as OptionSet["left_out"] }),
              "What is left out changed",
            );
            setOpen(false);
            setTicked({});
          }}
        >
          Leave these out
        </Button>
      </div>
    </div>
  );
}

import { useQuery } from "@tanstack/react-query";
import { useRef, useState } from "react";
import { Link, useParams } from "react-router";
import { client, data, type Schemas } from "../../api/client";
import { ask } from "../../api/queries";
import { placeOf, type Things } from "../../app/nouns";
import { Saved, useSaving } from "../../app/saving";
import { useThing } from "../../app/things";
import { Button, counted, Empty } from "../../ui/basics";
import { moved, SortableList, SortableRow } from "../../ui/Sortable";
import { PaneHead } from "../../ui/Split";
import { TextBox } from "../../ui/TextBox";
import { useGrowing } from "../../ui/useGrowing";
import { RemoveThing } from "../RemoveThing";
import { ExampleProof, ThingPane } from "../ThingPane";
import { ThingsFrame } from "../ThingsFrame";
import { PasteValues } from "./PasteValues";

type Value = Schemas["ListValue"];

export default function ListsView() {
  const { key } = useParams();
  const lists = useQuery(ask.things("value_list")).data;
  if (!lists) return null;
  const here = lists.find(({ thing }) => thing.key === key);
  return (
    <ThingsFrame
      noun="value_list"
      here={key}
      rows={lists.map(({ thing }) => ({
        key: thing.key,
        name: thing.name,
        count: thing.values.filter((value) => !value.retired).length,
      }))}
      sheet={here && <ListSheet key={here.thing.key} row={here} />}
      pane={
        here && (
          <ThingPane
            what="list"
            noun="value_list"
            thing={here.thing.key}
            own={[["use", "Use", <ListUse key="use" row={here} />]]}
            proof={<ExampleProof noun="value_list" thing={here.thing.key} />}
          />
        )
      }
    />
  );
}

function ListSheet({ row }: { row: Things["value_list"] }) {
  const list = row.thing;
  const { save } = useSaving();
  const { put: write, current } = useThing("value_list", row);
  const [wrong, setWrong] = useState<{ code: string | null; text: string } | null>(null);
  const [fresh, setFresh] = useState("");
  const box = useRef<HTMLInputElement>(null);
  const put = (changes: Parameters<typeof write>[0]) =>
    write(changes, {
      onRefused: ({ problem }) => {
        const at = problem.where[0] === "values" ? problem.where[1] : undefined;
        const code = typeof at === "number" ? (current().thing.values[at]?.code ?? null) : (at ?? null);
        setWrong({ code, text: `${problem.message}. ${problem.help}` });
      },
    }).then((answer) => answer && setWrong(null));
  const values = list.values;
  const [shown, end] = useGrowing(values.length);
  const change = (code: string, changes: Partial<Value>) =>
    put((thing) => ({
      values: thing.values.map((value) => (value.code === code ? { ...value, ...changes } : value)),
    }));
  const move = (from: number, to: number) => {
    const order = moved(
      values.map((value) => value.code),
      from,
      to,
    );
    return put((thing) => ({ values: inOrder(thing.values, order) }));
  };
  async function add(event: React.FormEvent) {
    event.preventDefault();
    if (!fresh.trim()) return;
    const done = await save(
      () =>
        data(
          client.POST("/api/value_lists/{key}/paste", {
            params: { path: { key: list.key } },
            body: { version: current().version, text: fresh.replaceAll(";", ","), apply: true },
          }),
        ),
      { noun: "value_list" },
    );
    const skipped = done?.skipped[0];
    setWrong(skipped ? { code: null, text: `${skipped.text}: ${skipped.reason}` } : null);
    if (done && !skipped) setFresh("");
    box.current?.focus();
  }
  return (
    <>
      <PaneHead title={list.name} note={<span className="key">{list.key}</span>}>
        <Saved />
        <PasteValues row={row} />
      </PaneHead>
      <div className="px-[14px] pb-2">
        <label htmlFor="name" className="flex items-center gap-3 text-ink-2">
          Name
          <TextBox id="name" className="!w-64" value={list.name} onCommit={(name) => put({ name })} />
        </label>
      </div>
      <div
        className="grid grid-cols-[20px_minmax(0,1.2fr)_minmax(0,1fr)_minmax(0,1.2fr)_76px] gap-2 px-[6px] pb-1 text-[11.5px] font-semibold text-ink-2"
        style={{ boxShadow: "inset 0 -1.5px 0 #1c2230" }}
        aria-hidden="true"
      >
        <span />
        <span>Label</span>
        <span>Code</span>
        <span>Also read as</span>
        <span />
      </div>
      <div className="scroll min-h-0 flex-1 pb-4">
        <SortableList ids={values.slice(0, shown).map((value) => value.code)} onMove={move}>
          {values.slice(0, shown).map((value, index) => (
            <ValueRow
              key={value.code}
              value={value}
              wrong={wrong?.code === value.code}
              onChange={(changes) => change(value.code, changes)}
              onStep={(by) => move(index, index + by)}
            />
          ))}
        </SortableList>
        <div ref={end} />
        {wrong && (
          <p className="wrongly px-[14px] pt-2" role="alert">
            {wrong.text}
          </p>
        )}
        {values.length === 0 && <Empty title="No values yet">Type the first one below, or paste a whole list.</Empty>}
        <form onSubmit={add} className="flex gap-2 px-[36px] pt-3">
          <input
            ref={box}
            className="input"
            aria-label="New value"
            placeholder="New value, then Enter"
            value={fresh}
            onChange={(event) => setFresh(event.target.value)}
          />
          <Button type="submit">Add value</Button>
        </form>
      </div>
    </>
  );
}

/** One value: its label and other writings, edited where they stand, and retiring. */
function ValueRow(props: {
  value: Value;
  wrong: boolean;
  onChange: (changes: Partial<Value>) => void;
  onStep: (by: -1 | 1) => void;
}) {
  const { value } = props;
  return (
    <SortableRow
      id={value.code}
      name={value.label}
      className="border-b border-line px-[6px] py-[3px]"
      onStep={props.onStep}
    >
      <div
        className={`grid flex-1 grid-cols-[minmax(0,1.2fr)_minmax(0,1fr)_minmax(0,1.2fr)_76px] items-center gap-2 ${value.retired ? "opacity-80" : ""}`}
      >
        <TextBox
          aria-label={`Label of ${value.label}`}
          className={value.retired ? "line-through" : ""}
          wrong={props.wrong}
          value={value.label}
          onCommit={(label) => props.onChange({ label })}
        />
        <span className="key truncate">{value.code}</span>
        <TextBox
          aria-label={`Synonyms of ${value.label}`}
          placeholder="words, with commas"
          value={value.synonyms.join(", ")}
          onCommit={(text) =>
            props.onChange({
              synonyms: text
                .split(",")
                .map((synonym) => synonym.trim())
                .filter(Boolean),
            })
          }
        />
        <Button look="quiet" onClick={() => props.onChange({ retired: !value.retired })}>
          {value.retired ? "Bring back" : "Retire"}
        </Button>
      </div>
    </SortableRow>
  );
}

/** Values in the order of their codes; those that came since stand behind. */
export function inOrder(values: readonly Value[], codes: readonly string[]): Value[] {
  const rank = new Map(codes.map((code, index) => [code, index]));
  return [...values].sort((a, b) => (rank.get(a.code) ?? codes.length) - (rank.get(b.code) ?? codes.length));
}

function ListUse({ row }: { row: Things["value_list"] }) {
  const fields = useQuery(ask.things("field")).data ?? [];
  const { remove } = useThing("value_list", row);
  const users = fields.filter(({ thing }) => row.fields.includes(thing.key));
  return (
    <section className="scroll min-h-0 flex-1 px-[14px] py-3">
      <h3>Where it is used</h3>
      {users.length === 0 && <p className="hint mt-1">No field takes from it yet.</p>}
      <ul>
        {users.map(({ thing, types, filled }) => (
          <li key={thing.key} className="mt-1">
            <Link className="link" to={placeOf("field", thing.key)}>
              {thing.name}
            </Link>{" "}
            <span className="text-ink-3">
              {counted(types.length, "type")}, {counted(filled, "product")} filled
            </span>
          </li>
        ))}
      </ul>
      <p className="hint mt-4">A retired value stays on the products that have it, and is no longer offered.</p>
      <RemoveThing what="list" noun="value_list" name={row.thing.name} remove={remove} to="/define/lists" />
    </section>
  );
}

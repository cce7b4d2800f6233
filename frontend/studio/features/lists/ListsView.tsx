import { useQuery } from "@tanstack/react-query";
import { useRef, useState } from "react";
import { Link, useParams } from "react-router";
import { client, data, type Schemas } from "../../api/client";
import { ask } from "../../api/queries";
import { Saved, useSaving } from "../../app/saving";
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
  const lists = useQuery(ask.lists()).data?.lists;
  if (!lists) return null;
  const here = lists.find((one) => one.list.key === key);
  return (
    <ThingsFrame
      what="value list"
      base="/define/lists"
      here={key}
      rows={lists.map((one) => ({
        key: one.list.key,
        name: one.list.name,
        count: one.list.values.filter((v) => !v.retired).length,
      }))}
      onMake={async (name) => (await data(client.POST("/api/lists", { body: { name } }))).list.key}
      sheet={here && <ListSheet key={here.list.key} at={here} />}
      pane={
        here && (
          <ThingPane
            what="list"
            noun="list"
            thing={here.list.key}
            own={["use", "Use", <ListUse key="use" at={here} />]}
            proof={<ExampleProof noun="list" thing={here.list.key} />}
          />
        )
      }
    />
  );
}

function ListSheet({ at }: { at: Schemas["ListOut"] }) {
  const { list, version } = at;
  const { save } = useSaving();
  const [wrong, setWrong] = useState<{ place: number; text: string } | null>(null);
  const [fresh, setFresh] = useState("");
  const box = useRef<HTMLInputElement>(null);
  const put = (changes: Partial<Schemas["ListPatch"]>, done?: string) => {
    const write = (over: number) =>
      data(
        client.PATCH("/api/lists/{key}", {
          params: { path: { key: list.key } },
          body: { ...changes, version: over } as Schemas["ListPatch"],
        }),
      );
    return save(() => write(version), {
      over: write,
      done,
      onRefused: ({ problem }) =>
        setWrong({ place: Number(problem.where[1] ?? -1), text: `${problem.message}. ${problem.help}` }),
    }).then((got) => {
      if (got) setWrong(null);
      return got;
    });
  };
  const values = list.values;
  const [shown, end] = useGrowing(values.length);
  const change = (place: number, changes: Partial<Value>) =>
    put({ values: values.map((one, at) => (at === place ? { ...one, ...changes } : one)) });
  const move = (from: number, to: number) => put({ values: moved(values, from, to) });
  async function add(event: React.FormEvent) {
    event.preventDefault();
    if (!fresh.trim()) return;
    const done = await save(
      () =>
        data(
          client.POST("/api/lists/{key}/paste", {
            params: { path: { key: list.key } },
            body: { version, text: fresh.replaceAll(";", ","), apply: true },
          }),
        ),
      {},
    );
    const skipped = done?.skipped[0];
    setWrong(skipped ? { place: -1, text: `${skipped.text}: ${skipped.reason}` } : null);
    if (done && !skipped) setFresh("");
    box.current?.focus();
  }
  return (
    <>
      <PaneHead title={list.name} note={<span className="key">{list.key}</span>}>
        <Saved />
        <PasteValues at={at} />
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
        <SortableList ids={values.slice(0, shown).map((one) => one.code)} onMove={move}>
          {values.slice(0, shown).map((value, place) => (
            <ValueRow
              key={value.code}
              value={value}
              wrong={wrong?.place === place}
              onChange={(changes) => change(place, changes)}
              onStep={(by) => move(place, place + by)}
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
                .map((one) => one.trim())
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

function ListUse({ at }: { at: Schemas["ListOut"] }) {
  const fields = useQuery(ask.fields()).data?.fields ?? [];
  const users = fields.filter((one) => at.fields.includes(one.field.key));
  return (
    <section className="scroll min-h-0 flex-1 px-[14px] py-3">
      <h3>Where it is used</h3>
      {users.length === 0 && <p className="hint mt-1">No field takes from it yet.</p>}
      <ul>
        {users.map((one) => (
          <li key={one.field.key} className="mt-1">
            <Link className="link" to={`/define/fields/${one.field.key}`}>
              {one.field.name}
            </Link>{" "}
            <span className="text-ink-3">
              {counted(one.types.length, "type")}, {counted(one.filled, "product")} filled
            </span>
          </li>
        ))}
      </ul>
      <p className="hint mt-4">A retired value stays on the products that have it, and is no longer offered.</p>
      <RemoveThing
        what="list"
        name={at.list.name}
        remove={() =>
          data(
            client.DELETE("/api/lists/{key}", {
              params: { path: { key: at.list.key }, query: { version: at.version } },
            }),
          )
        }
        to="/define/lists"
      />
    </section>
  );
}

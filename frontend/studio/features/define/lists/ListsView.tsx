import { useQuery } from "@tanstack/react-query";
import { useRef, useState } from "react";
import { Link, useParams } from "react-router";
import { client, data } from "../../../api/client";
import { placeOf, type Things } from "../../../api/nouns";
import { ask } from "../../../api/queries";
import { LastChanged } from "../../../history/LastChanged";
import { Saved, useSaving } from "../../../state/saving";
import { useThing } from "../../../state/things";
import { CopyThing } from "../../../things/CopyThing";
import { RemoveThing } from "../../../things/RemoveThing";
import { ExampleProof, ThingPane } from "../../../things/ThingPane";
import { ThingsFrame } from "../../../things/ThingsFrame";
import { useAddress } from "../../../ui/address";
import { Button, counted, Empty } from "../../../ui/basics";
import { FindBox } from "../../../ui/FindBox";
import { ranked } from "../../../ui/finding";
import { focusOnceThere } from "../../../ui/focus";
import { Input } from "../../../ui/inputs";
import { Opening } from "../../../ui/Opening";
import { Only } from "../../../ui/rights";
import { moved, SortableList } from "../../../ui/Sortable";
import { PaneHead } from "../../../ui/Split";
import { TextBox } from "../../../ui/TextBox";
import { useGrowing } from "../../../ui/useGrowing";
import { useTicks } from "../../../ui/useTicks";
import { remarksOf } from "../../../values/Remarks";
import { MergeDialog } from "./MergeDialog";
import { ReadValues } from "./ReadValues";
import { useList } from "./useList";
import { isUnused, TRACKS, type Value, ValueRow } from "./ValueRow";
import { ValuesTicked } from "./ValuesTicked";

export default function ListsView() {
  const { key } = useParams();
  const lists = useQuery(ask.things("value_list")).data;
  if (!lists) return <Opening />;
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

/** So many values are looked through without a box to find them. */
const FEW = 8;

function ListSheet({ row }: { row: Things["value_list"] }) {
  const list = row.thing;
  const { save } = useSaving();
  const { wrong, setWrong, put, current, change, changeAll } = useList(row);
  const [fresh, setFresh] = useState("");
  const box = useRef<HTMLInputElement>(null);
  const [only, setOnly] = useState(false);
  const [merging, setMerging] = useState<readonly Value[] | null>(null);
  const uses = useQuery(ask.listUsage(list.key)).data?.values;
  const remarks = useQuery(ask.remarks("value_list", list.key)).data?.remarks ?? [];
  const usedBy = (code: string) => uses?.find((use) => use.code === code);
  const unused = list.values.filter(({ code }) => isUnused(usedBy(code)));
  const [words, setWords] = useAddress("value");
  const among = only ? unused : list.values;
  const values = ranked(among, words ?? "", ({ label, code, synonyms }) => ({
    name: label,
    also: [code, ...(synonyms ?? [])],
  }));
  const whole = !only && !words;
  const ticks = useTicks(values.map(({ code }) => code));
  const [shown, end] = useGrowing(values.length);
  const move = (from: number, to: number) => {
    const order = moved(
      values.map((value) => value.code),
      from,
      to,
    );
    return put((thing) => ({ values: inOrder(thing.values, order) }));
  };
  const together = (title: string, from: (values: readonly Value[]) => Value[]) =>
    changeAll(title, from, () => {
      ticks.clear();
      focusOnceThere(() => box.current);
    });
  function takeOut(codes: ReadonlySet<string>) {
    const [first] = codes;
    const one = list.values.find((value) => value.code === first)?.label ?? "";
    const title = `Take ${codes.size === 1 ? one : counted(codes.size, "value")} out of ${list.name}`;
    together(title, (now) => now.filter((value) => !codes.has(value.code)));
  }
  const ticked = list.values.filter(({ code }) => ticks.ticked.has(code));
  const retire = (retired: boolean) =>
    together(`${retired ? "Retire" : "Bring back"} ${counted(ticked.length, "value")} of ${list.name}`, (now) =>
      now.map((value) => (ticks.ticked.has(value.code) ? { ...value, retired } : value)),
    );
  const gather = (to: "first" | "last") =>
    together(`Move ${counted(ticked.length, "value")} of ${list.name}`, (now) => {
      const moving = now.filter(({ code }) => ticks.ticked.has(code));
      const rest = now.filter(({ code }) => !ticks.ticked.has(code));
      return to === "first" ? [...moving, ...rest] : [...rest, ...moving];
    });
  async function add(event: React.FormEvent) {
    event.preventDefault();
    const typed = fresh;
    if (!typed.trim()) return;
    const done = await save(
      () =>
        data(
          client.POST("/api/value_lists/{key}/paste", {
            params: { path: { key: list.key } },
            body: { version: current().version, text: typed.replaceAll(";", ","), apply: true },
          }),
        ),
      { noun: "value_list" },
    );
    const skipped = done?.skipped[0];
    setWrong(skipped ? { code: null, text: `${skipped.text}: ${skipped.reason}` } : null);
    if (done && !skipped) setFresh((now) => (now === typed ? "" : now));
    if (document.activeElement === document.body) box.current?.focus();
  }
  return (
    <>
      <PaneHead title={list.name} note={<span className="key">{list.key}</span>}>
        <Saved />
        <a className="link" href={`/api/value_lists/${list.key}/table.csv`} download>
          Export CSV
        </a>
        <ReadValues row={row} way="table" onDone={() => focusOnceThere(() => box.current)} />
        <ReadValues row={row} way="paste" onDone={() => focusOnceThere(() => box.current)} />
      </PaneHead>
      <div className="flex flex-wrap items-center gap-x-5 gap-y-1 px-[14px] pb-2">
        <label htmlFor="name" className="flex items-center gap-3 text-ink-2">
          Name
          <TextBox id="name" className="!w-56" value={list.name} onCommit={(name) => put({ name })} />
        </label>
        <label className="flex items-center gap-1.5">
          <Input
            type="checkbox"
            className="tick"
            checked={list.grows ?? true}
            onChange={(event) => void put({ grows: event.target.checked })}
          />
          added to while filling
        </label>
        {list.values.length > FEW && (
          <FindBox
            label="Find a value"
            letter="f"
            className="input !w-44"
            text={words ?? ""}
            onText={(text) => setWords(text || null)}
          />
        )}
        {(unused.length > 0 || only) && (
          <button type="button" className="link" aria-pressed={only} onClick={() => setOnly(!only)}>
            {only ? "All values" : `${counted(unused.length, "unused value")}`}
          </button>
        )}
      </div>
      <ValuesTicked
        count={ticked.length}
        retired={ticked.every(({ retired }) => retired)}
        onRetire={retire}
        onMove={gather}
        onMerge={ticked.length > 1 ? () => setMerging(ticked) : undefined}
        onTakeOut={() => takeOut(ticks.ticked)}
        onClear={ticks.clear}
      />
      <div
        className={`grid ${TRACKS} gap-2 pl-[34px] pr-[16px] pb-1 text-[11.5px] font-semibold text-ink-2`}
        style={{ boxShadow: "inset 0 -1.5px 0 #1c2230" }}
        aria-hidden="true"
      >
        <span>Look</span>
        <span>Label</span>
        <span>Code</span>
        <span>Also read as</span>
        <span className="text-right">Held by</span>
        <span />
      </div>
      <div className="scroll min-h-0 flex-1 pb-4">
        <SortableList ids={values.slice(0, shown).map((value) => value.code)} onMove={move}>
          {values.slice(0, shown).map((value, index) => (
            <ValueRow
              key={value.code}
              value={value}
              use={usedBy(value.code)}
              wrong={wrong?.code === value.code}
              remarks={remarksOf(remarks, value.code)}
              movable={whole}
              ticked={ticks.ticked.has(value.code)}
              onTick={(range) => ticks.tick(value.code, range)}
              onChange={(changes) => change(value.code, changes)}
              onStep={(by) => move(index, index + by)}
              onMerge={() => setMerging([value])}
              onTakeOut={() => takeOut(new Set([value.code]))}
            />
          ))}
        </SortableList>
        <div ref={end} />
        {wrong && (
          <p className="wrongly px-[14px] pt-2" role="alert">
            {wrong.text}
          </p>
        )}
        {merging && (
          <MergeDialog
            list={list}
            values={merging}
            onClose={() => {
              setMerging(null);
              focusOnceThere(() => box.current);
            }}
          />
        )}
        {words && values.length === 0 && (
          <p className="hint px-[36px] pt-3">
            No value has “{words}” in its label, code or synonyms. It can be added below.
          </p>
        )}
        {list.values.length === 0 && (
          <Empty title="No values yet">Type the first one below, or paste a whole list.</Empty>
        )}
        <Only>
          <form onSubmit={add} className="flex gap-2 px-[36px] pt-3">
            <Input
              ref={box}
              data-next
              className="input"
              aria-label="New value"
              placeholder="New value, then Enter"
              value={fresh}
              onChange={(event) => setFresh(event.target.value)}
            />
            <Button right="edit" type="submit">
              Add value
            </Button>
          </form>
        </Only>
      </div>
    </>
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
  const sets = (useQuery(ask.things("option_set")).data ?? []).filter(({ thing }) =>
    (thing.options ?? []).some((option) => option.list === row.thing.key),
  );
  const users = fields.filter(({ thing }) => row.fields.includes(thing.key));
  return (
    <section className="scroll min-h-0 flex-1 px-[14px] py-3">
      <h3>Where it is used</h3>
      {users.length + sets.length === 0 && <p className="hint mt-1">Nothing takes from it yet.</p>}
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
      <ul>
        {sets.map(({ thing, products }) => (
          <li key={thing.key} className="mt-1">
            <Link className="link" to={placeOf("option_set", thing.key)}>
              {thing.name}
            </Link>{" "}
            <span className="text-ink-3">an option set on {counted(products, "product")}</span>
          </li>
        ))}
      </ul>
      <LastChanged noun="value_list" thing={row.thing.key} />
      <p className="hint mt-4">A retired value stays on the products that have it, and is no longer offered.</p>
      <CopyThing noun="value_list" thing={row.thing.key} name={row.thing.name} note="that no field takes from yet" />
      <RemoveThing what="list" noun="value_list" name={row.thing.name} remove={remove} to="/define/lists" />
    </section>
  );
}

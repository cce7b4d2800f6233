import { useQuery } from "@tanstack/react-query";
import { useRef, useState } from "react";
import { Link, useParams } from "react-router";
import { client, data } from "../../../api/client";
import { placeOf, type Things } from "../../../api/nouns";
import { ask } from "../../../api/queries";
import { useConsider } from "../../../considering/Considering";
import { LastChanged } from "../../../history/LastChanged";
import { Saved, useSaving } from "../../../state/saving";
import { useThing } from "../../../state/things";
import { RemoveThing } from "../../../things/RemoveThing";
import { ExampleProof, ThingPane } from "../../../things/ThingPane";
import { ThingsFrame } from "../../../things/ThingsFrame";
import { Button, counted, Empty } from "../../../ui/basics";
import { focusOnceThere } from "../../../ui/focus";
import { Input } from "../../../ui/inputs";
import { Only } from "../../../ui/rights";
import { moved, SortableList } from "../../../ui/Sortable";
import { PaneHead } from "../../../ui/Split";
import { TextBox } from "../../../ui/TextBox";
import { useGrowing } from "../../../ui/useGrowing";
import { remarksOf } from "../../../values/Remarks";
import type { ValueChanges } from "../../../values/ValueDetails";
import { MergeDialog } from "./MergeDialog";
import { ReadValues } from "./ReadValues";
import { isUnused, TRACKS, type Value, ValueRow } from "./ValueRow";

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
  const [only, setOnly] = useState(false);
  const [merging, setMerging] = useState<Value | null>(null);
  const consider = useConsider();
  const put = (changes: Parameters<typeof write>[0]) =>
    write(changes, {
      onRefused: ({ problem }) => {
        const at = problem.where[0] === "values" ? problem.where[1] : undefined;
        const code = typeof at === "number" ? (current().thing.values[at]?.code ?? null) : (at ?? null);
        setWrong({ code, text: `${problem.message}. ${problem.help}` });
      },
    }).then((answer) => answer && setWrong(null));
  const uses = useQuery(ask.listUsage(list.key)).data?.values;
  const remarks = useQuery(ask.remarks("value_list", list.key)).data?.remarks ?? [];
  const usedBy = (code: string) => uses?.find((use) => use.code === code);
  const unused = list.values.filter(({ code }) => isUnused(usedBy(code)));
  const values = only ? unused : list.values;
  const [shown, end] = useGrowing(values.length);
  const change = (code: string, changes: ValueChanges) =>
    put((thing) => ({
      values: thing.values.map((value) =>
        value.code === code ? { ...value, ...(typeof changes === "function" ? changes(value) : changes) } : value,
      ),
    }));
  const move = (from: number, to: number) => {
    const order = moved(
      values.map((value) => value.code),
      from,
      to,
    );
    return put((thing) => ({ values: inOrder(thing.values, order) }));
  };
  function takeOut(code: string) {
    const kept = current().thing.values.filter((value) => value.code !== code);
    const label = list.values.find((value) => value.code === code)?.label ?? code;
    consider(
      `Take ${label} out of ${list.name}`,
      { noun: "value_list", key: list.key, changes: { values: kept } },
      () => {
        void put((thing) => ({ values: thing.values.filter((value) => value.code !== code) }));
        focusOnceThere(() => box.current);
      },
    );
  }
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
        {(unused.length > 0 || only) && (
          <button type="button" className="link" aria-pressed={only} onClick={() => setOnly(!only)}>
            {only ? "All values" : `${counted(unused.length, "unused value")}`}
          </button>
        )}
      </div>
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
              movable={!only}
              onChange={(changes) => change(value.code, changes)}
              onStep={(by) => move(index, index + by)}
              onMerge={() => setMerging(value)}
              onTakeOut={() => takeOut(value.code)}
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
            value={merging}
            onClose={() => {
              setMerging(null);
              focusOnceThere(() => box.current);
            }}
          />
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
      <RemoveThing what="list" noun="value_list" name={row.thing.name} remove={remove} to="/define/lists" />
    </section>
  );
}

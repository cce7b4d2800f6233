import { useQuery } from "@tanstack/react-query";
import { type RefObject, useEffect, useLayoutEffect, useMemo, useRef, useState } from "react";
import { useNavigate, useParams, useSearchParams } from "react-router";
import type { Schemas } from "../../../api/client";
import { ask } from "../../../api/queries";
import { useSaving } from "../../../state/saving";
import { ExampleProof, ThingPane } from "../../../things/ThingPane";
import { TypeOptions } from "../../../things/TypeOptions";
import { useAddress } from "../../../ui/address";
import { Empty } from "../../../ui/basics";
import { FindBox } from "../../../ui/FindBox";
import { ranked } from "../../../ui/finding";
import { focusOnceThere, nextIn } from "../../../ui/focus";
import { Opening } from "../../../ui/Opening";
import { ForAll } from "../../../ui/rights";
import { Select } from "../../../ui/Select";
import { Selvedge } from "../../../ui/Selvedge";
import { PaneHead, Split } from "../../../ui/Split";
import { useReveal } from "../../../ui/useReveal";
import { useTicks } from "../../../ui/useTicks";
import { FieldPane } from "./FieldPane";
import { FieldRows } from "./FieldRows";
import { FieldsTicked } from "./FieldsTicked";
import { NewField } from "./NewField";
import { Starters } from "./Starters";

export default function FieldsView() {
  const { key } = useParams();
  const [params] = useSearchParams();
  const go = useNavigate();
  const { freshen } = useSaving();
  const all = useQuery(ask.things("field")).data;
  const meta = useQuery(ask.meta()).data;
  const [text] = useAddress("q");
  const [kind] = useAddress("kind");
  const [used] = useAddress("used");
  const [fresh, setFresh] = useState<string | null>(null);
  const sheet = useRef<HTMLDivElement>(null);
  const pane = useRef<HTMLDivElement>(null);
  // What stands on the screen, not what is being worked out.
  const drawn = useRef<string | undefined>(undefined);
  useLayoutEffect(() => {
    drawn.current = fresh !== null && fresh === key && all?.some(({ thing }) => thing.key === key) ? key : undefined;
  }, [fresh, key, all]);
  async function goTo(key: string) {
    await freshen(undefined);
    setFresh(key);
    open(key);
    // What comes next has it, else the row, and no box: the next one is made with N, whatever it is called.
    focusOnceThere(() => {
      const row = sheet.current?.querySelector<HTMLElement>(`[data-mark="${CSS.escape(key)}"] [data-item]`);
      return row && drawn.current === key ? (nextIn(pane.current) ?? row) : null;
    });
  }
  const open = (to: string) => go({ pathname: `/define/fields/${to}`, search: params.toString() });
  const shown = useMemo(
    () =>
      ranked(all ?? [], text ?? "", ({ thing }) => ({
        name: thing.name,
        also: [thing.key, thing.label],
        help: thing.help,
      })).filter(({ thing: field, types, products, filled }) => {
        const use =
          !used ||
          (used === "none" && types.length === 0) ||
          (used === "never" && products > 0 && filled === 0) ||
          types.includes(used);
        return (!kind || field.kind === kind) && use;
      }),
    [all, text, kind, used],
  );
  const ticks = useTicks(shown.filter(({ own }) => own).map(({ thing }) => thing.key));
  const here = all?.find(({ thing }) => thing.key === key);
  useEffect(() => {
    const first = all?.[0];
    if (!key && first)
      go({ pathname: `/define/fields/${first.thing.key}`, search: params.toString() }, { replace: true });
  }, [key, all, go, params]);
  useReveal(sheet, key, Boolean(here && meta));
  if (!all || !meta) return <Opening />;
  const own = all.filter((use) => use.own).length;

  const sheetPart = (
    <>
      <PaneHead title="Fields" note={`${own} of your own, ${all.length - own} built in`}>
        <FieldFilters kinds={meta.kinds} list={sheet} />
        <Starters onAdded={goTo} />
        <NewField meta={meta} onMade={goTo} />
      </PaneHead>
      <FieldsTicked uses={shown.filter(({ thing }) => ticks.ticked.has(thing.key))} onDone={ticks.clear} />
      <div className="flex min-h-0 flex-1">
        <div ref={sheet} className="scroll min-w-0 flex-1">
          <FieldRows rows={shown} here={key} meta={meta} ticked={ticks.ticked} onTick={ticks.tick} onOpen={open} />
          {shown.length === 0 && (
            <Empty title="No field is like that">Change the filter, or make the field with N.</Empty>
          )}
        </div>
        <Selvedge
          sheet={sheet}
          marks={shown
            .filter(
              ({ own, thing, types, filled }) =>
                own && thing.audience !== "staff" && (types.length === 0 || filled === 0),
            )
            .map(({ thing, types }) => ({
              id: thing.key,
              wrong: types.length === 0,
              text: `${thing.name}: ${types.length === 0 ? "on no type" : "never filled"}`,
            }))}
        />
      </div>
    </>
  );
  const panePart = here && (
    <div ref={pane} className="contents">
      <ThingPane
        what="field"
        noun="field"
        thing={here.thing.key}
        own={[
          [
            "field",
            "Field",
            <FieldPane key={here.thing.key} use={here} meta={meta} fresh={fresh === here.thing.key} />,
          ],
        ]}
        proof={<ExampleProof noun="field" thing={here.thing.key} field={here.thing.key} />}
      />
    </div>
  );
  return (
    <Split
      id="define"
      parts={[
        { id: "sheet", min: 420, start: "64", children: sheetPart },
        {
          id: "pane",
          min: 340,
          start: "36",
          className: "pane",
          folds: "Field",
          children:
            panePart ??
            (key && (
              <Empty title={`There is no field “${key}”`}>
                It may have been removed. Choose one at the left; what was removed can be undone in Release, under
                History.
              </Empty>
            )),
        },
      ]}
    />
  );
}

/** What the list of fields is narrowed by; the address holds it. */
function FieldFilters({ kinds, list }: { kinds: Schemas["KindOut"][]; list: RefObject<HTMLElement | null> }) {
  const [text, setText] = useAddress("q");
  const [kind, setKind] = useAddress("kind");
  const [used, setUsed] = useAddress("used");
  return (
    <ForAll>
      <FindBox label="Filter fields" className="input !w-[120px]" text={text ?? ""} onText={setText} list={list} />
      <Select
        className="input !w-[108px]"
        aria-label="Kind"
        value={kind ?? ""}
        onChange={(event) => setKind(event.target.value)}
      >
        <option value="">Kind: any</option>
        {kinds.map((kind) => (
          <option key={kind.code} value={kind.code}>
            {kind.name}
          </option>
        ))}
      </Select>
      <Select
        className="input !w-[118px]"
        aria-label="Used by"
        value={used ?? ""}
        onChange={(event) => setUsed(event.target.value)}
      >
        <option value="">Used by: any</option>
        <option value="none">no type</option>
        <option value="never">never filled</option>
        <TypeOptions />
      </Select>
    </ForAll>
  );
}

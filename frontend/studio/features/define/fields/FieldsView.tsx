import { useQuery } from "@tanstack/react-query";
import { type RefObject, useEffect, useLayoutEffect, useMemo, useRef, useState } from "react";
import { Link, useNavigate, useParams, useSearchParams } from "react-router";
import type { Schemas } from "../../../api/client";
import { PRODUCT, type Things } from "../../../api/nouns";
import { ask } from "../../../api/queries";
import { OPTION_CONTROLS } from "../../../controls/options";
import { asText } from "../../../kinds/base";
import { useSaving } from "../../../state/saving";
import { ExampleProof, ThingPane } from "../../../things/ThingPane";
import { TypeOptions } from "../../../things/TypeOptions";
import { useAddress } from "../../../ui/address";
import { counted, Empty, FillBar } from "../../../ui/basics";
import { FindBox } from "../../../ui/FindBox";
import { ranked } from "../../../ui/finding";
import { focusOnceThere, nextIn } from "../../../ui/focus";
import { moveFocus } from "../../../ui/keys";
import { ForAll } from "../../../ui/rights";
import { Select } from "../../../ui/Select";
import { Selvedge } from "../../../ui/Selvedge";
import { PaneHead, Split } from "../../../ui/Split";
import { useGrowing } from "../../../ui/useGrowing";
import { useReveal } from "../../../ui/useReveal";
import { FieldPane } from "./FieldPane";
import { NewField } from "./NewField";
import { Starters } from "./Starters";

type Use = Things["field"];

/** `measure, g/m²`: the kind of a field in a word or two. */
export function kindWords(use: Use, kinds: Schemas["KindOut"][]): string {
  const field = use.thing;
  const kind = kinds.find(({ code }) => code === field.kind);
  // Options that name a thing of the shop are told where it is chosen; the rest say more of the kind.
  const options = (kind?.options ?? [])
    .filter(({ noun }) => !noun)
    .map(({ code, control }) => {
      const value = field.options[code];
      return value === undefined || value === null
        ? null
        : (OPTION_CONTROLS[control]?.inWords?.(value) ?? asText(value));
    });
  const words = [
    kind?.name ?? field.kind.replaceAll("_", " "),
    field.many && "many",
    ...options,
    !use.own && "built in",
  ];
  return words.filter(Boolean).join(", ");
}

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
  const here = all?.find(({ thing }) => thing.key === key);
  useEffect(() => {
    const first = all?.[0];
    if (!key && first)
      go({ pathname: `/define/fields/${first.thing.key}`, search: params.toString() }, { replace: true });
  }, [key, all, go, params]);
  useReveal(sheet, key, Boolean(here && meta));
  if (!all || !meta) return null;
  const own = all.filter((use) => use.own).length;

  const sheetPart = (
    <>
      <PaneHead title="Fields" note={`${own} of your own, ${all.length - own} built in`}>
        <FieldFilters kinds={meta.kinds} list={sheet} />
        <Starters onAdded={goTo} />
        <NewField meta={meta} onMade={goTo} />
      </PaneHead>
      <div className="flex min-h-0 flex-1">
        <div ref={sheet} className="scroll min-w-0 flex-1">
          <FieldRows rows={shown} here={key} meta={meta} onOpen={open} />
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

function FieldRows(props: { rows: Use[]; here?: string; meta: Schemas["MetaOut"]; onOpen: (key: string) => void }) {
  const at = props.rows.findIndex((use) => use.thing.key === props.here);
  const [count, end] = useGrowing(props.rows.length);
  return (
    <>
      <table className="rows" aria-label="Fields">
        <colgroup>
          <col style={{ width: "25%" }} />
          <col style={{ width: "23%" }} />
          <col style={{ width: "22%" }} />
          <col style={{ width: "13%" }} />
          <col style={{ width: "17%" }} />
        </colgroup>
        <thead>
          <tr>
            <th>Name</th>
            <th>Key</th>
            <th>Kind</th>
            <th>Used by</th>
            <th>Filled</th>
          </tr>
        </thead>
        <tbody onKeyDown={moveFocus}>
          {props.rows.slice(0, Math.max(count, at + 1)).map((use) => {
            const field = use.thing;
            const share = use.products ? Math.floor((100 * use.filled) / use.products) : 0;
            const isHere = field.key === props.here;
            return (
              <tr
                key={field.key}
                className={isHere ? "here" : ""}
                data-mark={field.key}
                onClick={() => props.onOpen(field.key)}
              >
                <td>
                  <Link
                    to={`/define/fields/${field.key}${window.location.search}`}
                    data-item
                    aria-current={isHere || undefined}
                    title={field.name}
                    onFocus={(event) => event.currentTarget.matches(":focus-visible") && props.onOpen(field.key)}
                    onClick={(event) => event.stopPropagation()}
                  >
                    {field.name}
                  </Link>
                </td>
                <td className="key" title={field.key}>
                  {field.key}
                </td>
                <td>{kindWords(use, props.meta.kinds)}</td>
                <td className={use.types.length || use.products ? "" : "text-madder"}>
                  {!use.own ? "every type" : haveIt(use, props.meta)}
                </td>
                <td>
                  <FillBar share={share} width="52%" />{" "}
                  <span className="ml-1">{use.products ? `${share} %` : "–"}</span>
                </td>
              </tr>
            );
          })}
        </tbody>
      </table>
      <div ref={end} />
    </>
  );
}

/** Who has a field, in a word or two. */
function haveIt({ thing, types, products }: Things["field"], meta: Schemas["MetaOut"]): string {
  if (thing.subject !== PRODUCT)
    return meta.subjects.find(({ code }) => code === thing.subject)?.plural ?? thing.subject;
  if (types.length) return counted(types.length, "type");
  return products ? "in collections" : "no type";
}

import { useQuery } from "@tanstack/react-query";
import { useRef } from "react";
import { Link } from "react-router";
import type { Schemas } from "../../api/client";
import { ask } from "../../api/queries";
import { Saved } from "../../app/saving";
import { useAddress, usePutAddress } from "../../ui/address";
import { Empty, WEFT_WORDS, Weft, type WeftState } from "../../ui/basics";
import { moveInGrid } from "../../ui/keys";
import { Selvedge } from "../../ui/Selvedge";
import { PaneHead, Split } from "../../ui/Split";
import { useReveal } from "../../ui/useReveal";
import { ProofPane } from "../proof/ProofPane";
import { TypeOptions } from "../types/TypeOptions";
import { CellButton } from "./CellButton";

export default function WeaveView() {
  const [scopeText, setScope] = useAddress("scope");
  const [field, setField] = useAddress("field");
  const [cell] = useAddress("cell");
  const [picked, setPicked] = useAddress("product");
  const put = usePutAddress();
  const [differences, setDifferences] = useAddress("only");
  const scope = scopeText ?? "shop";
  const weave = useQuery(ask.weave(scope));
  const surfaces = useQuery(ask.meta()).data?.surfaces ?? [];
  const sheet = useRef<HTMLDivElement>(null);
  useReveal(sheet, field, Boolean(weave.data));
  const found = weave.data;
  const product = picked ? Number(picked) : (found?.example ?? null);
  const askWhy = (key: string, surface: string) => put({ on: surface, why: key, cell: null });
  const only = differences === "1";
  const groups = (found?.groups ?? [])
    .map((group) => ({
      ...group,
      rows: group.rows.filter((row) => !only || row.cells.some((cell) => Object.keys(cell.own).length > 0)),
    }))
    .filter((group) => group.rows.length > 0);
  const wanted = groups
    .flatMap((group) => group.rows)
    .flatMap((row) =>
      row.cells
        .filter((cell) => cell.state === "impossible")
        .map((cell) => ({ id: row.key, wrong: true, text: `${row.name}: ${cell.reason}` })),
    );
  const sheetPart = (
    <>
      <PaneHead title="Weave" note="which fields show where, for">
        <Saved />
      </PaneHead>
      <div className="flex flex-none flex-wrap items-center gap-2 px-[14px] pb-2">
        <ScopeChooser scope={scope} name={found?.scope_name ?? ""} onChoose={setScope} product={product} />
        <span className="ml-auto">
          <button type="button" className="btn" aria-pressed={only} onClick={() => setDifferences(only ? null : "1")}>
            {only ? "Show every field" : "Only what is set here"}
          </button>
        </span>
      </div>
      <ul
        className="flex flex-none flex-wrap gap-x-4 gap-y-1 px-[14px] pb-1 text-ink-2"
        aria-label="What the patterns mean"
      >
        {(Object.keys(WEFT_WORDS) as WeftState[]).map((state) => (
          <li key={state} className="flex items-center gap-1.5 text-[12px]">
            <Weft state={state} /> {WEFT_WORDS[state]}
          </li>
        ))}
      </ul>
      <div className="flex min-h-0 flex-1">
        <div ref={sheet} className="scroll min-w-0 flex-1">
          <table className="rows" aria-label="Weave" onKeyDown={moveInGrid}>
            <colgroup>
              <col />
              {surfaces.map((surface) => (
                <col key={surface.code} style={{ width: 92 }} />
              ))}
            </colgroup>
            <thead>
              <tr>
                <th>Field</th>
                {surfaces.map((surface) => (
                  <th key={surface.code} className="!text-center first-letter:uppercase">
                    {surface.name}
                  </th>
                ))}
              </tr>
            </thead>
            {groups.map((group) => (
              <tbody key={`${group.title} ${group.note}`}>
                <tr className="!cursor-default">
                  <th colSpan={surfaces.length + 1} scope="colgroup" className="band !static !shadow-none">
                    {group.title} <span>· {group.note}</span>
                  </th>
                </tr>
                {group.rows.map((row) => (
                  <WeaveLine
                    key={row.key}
                    row={row}
                    scope={scope}
                    scopeName={found?.scope_name ?? ""}
                    here={row.key === field}
                    openCell={row.key === field ? cell : null}
                    onHere={() => setField(row.key)}
                    onCell={(surface) => put(surface ? { field: row.key, cell: surface } : { cell: null })}
                    onWhy={(surface) => askWhy(row.key, surface)}
                  />
                ))}
              </tbody>
            ))}
          </table>
          {found && groups.length === 0 && (
            <Empty title={only ? "Nothing is set here" : "No fields yet"}>
              {only ? "All of it is inherited." : "Give the type a field set in Compose."}
            </Empty>
          )}
        </div>
        <Selvedge sheet={sheet} marks={wanted} />
      </div>
    </>
  );
  return (
    <Split
      id="weave"
      parts={[
        { id: "sheet", min: 430, start: "60", children: sheetPart },
        {
          id: "pane",
          min: 330,
          start: "40",
          folds: "Proof",
          className: "pane",
          children: (
            <ProofPane product={product} field={field ?? undefined} onPick={(number) => setPicked(String(number))} />
          ),
        },
      ]}
    />
  );
}

function ScopeChooser(props: {
  scope: string;
  name: string;
  product: number | null;
  onChoose: (scope: string | null) => void;
}) {
  const title = useQuery({ ...ask.product(props.product ?? 0), enabled: props.product !== null }).data?.title;
  const collections = useQuery(ask.things("collection")).data ?? [];
  return (
    <>
      <select
        className="input !w-auto font-semibold"
        aria-label="Whom the weave is for"
        value={props.scope}
        onChange={(event) => props.onChoose(event.target.value === "shop" ? null : event.target.value)}
      >
        <option value="shop">the whole shop</option>
        {props.scope.startsWith("product:") && <option value={props.scope}>{props.name}</option>}
        <optgroup label="Product types">
          <TypeOptions scope />
        </optgroup>
        {collections.length > 0 && (
          <optgroup label="Collections">
            {collections.map(({ thing }) => (
              <option key={thing.key} value={`collection:${thing.key}`}>
                {thing.name}
              </option>
            ))}
          </optgroup>
        )}
      </select>
      {props.scope.startsWith("product:") ? (
        <Link className="link" to={`/fill/products/${props.scope.slice(8)}`}>
          open this product
        </Link>
      ) : (
        props.product !== null &&
        title && (
          <button
            type="button"
            className="link max-w-[240px] truncate"
            onClick={() => props.onChoose(`product:${props.product}`)}
          >
            for {title} alone
          </button>
        )
      )}
    </>
  );
}

function WeaveLine(props: {
  row: Schemas["WeaveRow"];
  scope: string;
  scopeName: string;
  here: boolean;
  openCell: string | null;
  onHere: () => void;
  onCell: (surface: string | null) => void;
  onWhy: (surface: string) => void;
}) {
  const { row } = props;
  return (
    <tr
      className={props.here ? "here" : ""}
      data-mark={row.key}
      onFocus={(event) => event.currentTarget.contains(event.target) && !props.here && props.onHere()}
      onClick={(event) => (event.target as Element).closest("td:first-child") && props.onHere()}
    >
      <td title={`${row.name} ${row.key}`}>
        {row.name} <span className="key ml-1 font-normal">{row.key}</span>
      </td>
      {row.cells.map((cell) => (
        <td key={cell.surface} className="cell">
          <CellButton {...props} cell={cell} open={props.openCell === cell.surface} />
        </td>
      ))}
    </tr>
  );
}

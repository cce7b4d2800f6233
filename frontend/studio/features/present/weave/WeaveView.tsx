import { useQuery } from "@tanstack/react-query";
import { useCallback, useMemo, useRef } from "react";
import { Link } from "react-router";
import type { Schemas } from "../../../api/client";
import { PRODUCT } from "../../../api/nouns";
import { ask } from "../../../api/queries";
import { ProofPane } from "../../../proof/ProofPane";
import { RecordProof } from "../../../proof/RecordProof";
import { Saved } from "../../../state/saving";
import { useSurfaces } from "../../../state/surfaces";
import { ScopeOptions } from "../../../things/ScopeOptions";
import { useAddress, usePutAddress } from "../../../ui/address";
import { WEFT_WORDS, Weft, type WeftState } from "../../../ui/basics";
import { FindBox } from "../../../ui/FindBox";
import { ranked } from "../../../ui/finding";
import type { GridHandle, Line } from "../../../ui/grid/column";
import { ForAll } from "../../../ui/rights";
import { Select } from "../../../ui/Select";
import { Selvedge } from "../../../ui/Selvedge";
import { PaneHead, Split } from "../../../ui/Split";
import { CopyFrom } from "./CopyFrom";
import { WeaveSheet } from "./WeaveSheet";

const OF_RECORDS = "record_type:";

export default function WeaveView() {
  const [scopeText, setScope] = useAddress("scope");
  const [field, setField] = useAddress("field");
  const [cell] = useAddress("cell");
  const [picked, setPicked] = useAddress("product");
  const put = usePutAddress();
  const [differences, setDifferences] = useAddress("only");
  const scope = scopeText ?? "shop";
  const weave = useQuery(ask.weave(scope));
  const surfaces = useSurfaces(scope);
  const grid = useRef<GridHandle>(null);
  const found = weave.data;
  const product = picked ? Number(picked) : (found?.example ?? null);
  const askWhy = useCallback((key: string, surface: string) => put({ on: surface, why: key, cell: null }), [put]);
  const open = useCallback((key: string | null, surface: string | null) => put({ field: key, cell: surface }), [put]);
  const only = differences === "1";
  const [words, setWords] = useAddress("q");
  const lines = useMemo(() => linesOf(found?.groups ?? [], only, words ?? ""), [found, only, words]);
  const firstFound = lines.find((line) => "row" in line)?.key;
  const wanted = lines.flatMap((line, index) =>
    "row" in line
      ? line.row.cells
          .filter((cell) => cell.state === "impossible")
          .map((cell) => ({
            id: line.key,
            wrong: true,
            text: `${line.row.name}: ${cell.reason}`,
            place: index / lines.length,
          }))
      : [],
  );
  const sheetPart = (
    <>
      <PaneHead title="Weave" note="which fields show where, for">
        <Saved />
      </PaneHead>
      <div className="flex flex-none flex-wrap items-center gap-2 px-[14px] pb-2">
        <ScopeChooser scope={scope} name={found?.scope_name ?? ""} onChoose={setScope} product={product} />
        <span className="ml-auto flex gap-2">
          <ForAll>
            <FindBox
              label="Find a field"
              className="input !w-[150px]"
              text={words ?? ""}
              onText={(text) => setWords(text || null)}
              onGo={() => firstFound && grid.current?.focus(firstFound)}
            />
          </ForAll>
          {found && <CopyFrom weave={found} />}
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
      <div className="relative flex min-h-0 flex-1">
        {found && (
          <WeaveSheet
            weave={found}
            lines={lines}
            surfaces={surfaces}
            handle={grid}
            only={only}
            words={words ?? ""}
            field={field}
            cell={cell}
            onOpen={open}
            onHere={setField}
            onWhy={askWhy}
          />
        )}
        <Selvedge marks={wanted} onGo={(id) => grid.current?.focus(id)} />
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
          children: scope.startsWith(OF_RECORDS) ? (
            <RecordProof type={scope.slice(OF_RECORDS.length)} field={field ?? undefined} />
          ) : (
            <ProofPane product={product} field={field ?? undefined} onPick={(number) => setPicked(String(number))} />
          ),
        },
      ]}
    />
  );
}

/** Fields below the set that brings them; on wish only those of which something is set here. */
function linesOf(groups: Schemas["WeaveOut"]["groups"], only: boolean, words: string): Line<Schemas["WeaveRow"]>[] {
  return groups.flatMap((group) => {
    const set = group.rows.filter((row) => !only || row.cells.some((cell) => Object.keys(cell.own).length > 0));
    const rows = ranked(set, words, ({ key, name }) => ({ name, also: [key, group.title] }));
    const band = (
      <>
        {group.title} <span>· {group.note}</span>
      </>
    );
    return rows.length > 0
      ? [{ key: `group: ${group.title} ${group.note}`, band }, ...rows.map((row) => ({ key: row.key, row }))]
      : [];
  });
}

function ScopeChooser(props: {
  scope: string;
  name: string;
  product: number | null;
  onChoose: (scope: string | null) => void;
}) {
  const title = useQuery({ ...ask.product(props.product ?? 0), enabled: props.product !== null }).data?.title;
  return (
    <>
      <ForAll>
        <Select
          className="input !w-auto font-semibold"
          aria-label="Whom the weave is for"
          value={props.scope}
          onChange={(event) => props.onChoose(event.target.value === "shop" ? null : event.target.value)}
        >
          <option value="shop">the whole shop</option>
          {props.scope.startsWith("product:") && <option value={props.scope}>{props.name}</option>}
          <ScopeOptions subjects={[PRODUCT, "record"]} />
        </Select>
      </ForAll>
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

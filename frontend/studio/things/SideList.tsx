import { type ReactNode, type RefObject, useRef, useState } from "react";
import { NavLink } from "react-router";
import { counted, Empty } from "../ui/basics";
import { FindBox } from "../ui/FindBox";
import { ranked } from "../ui/finding";
import { moveFocus } from "../ui/keys";
import { number, withArticle } from "../ui/locale";
import { Only } from "../ui/rights";
import { SortableList, SortableRow } from "../ui/Sortable";
import { type Pages, useLoadOn } from "../ui/useLoadOn";
import { useReveal } from "../ui/useReveal";

export type SideRow = { key: string; name: string; count?: number; depth?: number };

export type Tree = (rows: SideRow[], item: (row: SideRow) => ReactNode) => ReactNode;

/** How rows are found by the server: the words asked for, how many match, and how the next ones are asked for. */
export type Finds = {
  text: string;
  onText: (text: string | null) => void;
  total: number;
  pages: Pages;
  /** Whether the rows are those of the words by now. */
  settled: boolean;
};
const SERVER_AFTER = 200;

/** A list of things at the left edge: filter, rows, and a way to make a new one at its foot. */
export function SideList(props: {
  what: string;
  /** Where the list of rows is kept, for who must reach into it. */
  nav?: RefObject<HTMLElement | null>;
  rows: SideRow[];
  here?: string;
  to: (key: string) => string;
  action: ReactNode;
  onMove?: (from: number, to: number) => void;
  note?: string;
  /** Draws the rows as a tree that can be put in another shape. */
  tree?: Tree;
  finds?: Finds;
  filter?: ReactNode;
}) {
  const { finds } = props;
  const [text, setText] = useState(finds?.text ?? "");
  const own = useRef<HTMLElement>(null);
  const list = props.nav ?? own;
  useReveal(list, props.here, props.rows.length > 0);
  const shown = finds ? props.rows : ranked(props.rows, text, (row) => ({ name: row.name, also: [row.key] }));
  return (
    <>
      <div className="flex-none p-3">
        <FindBox
          label={`Find ${withArticle(props.what)}`}
          text={finds ? finds.text : text}
          onText={(next) => {
            setText(next);
            finds?.onText(next || null);
          }}
          after={finds ? SERVER_AFTER : 0}
          list={list}
          settled={finds?.settled}
        />
        {props.filter}
        {finds && text.trim() && <p className="hint mt-1">{counted(finds.total, props.what)}</p>}
      </div>
      <nav ref={list} className="scroll min-h-0 flex-1" aria-label={`All ${props.what}s`} onKeyDown={moveFocus}>
        {props.tree && !text.trim() ? (
          props.tree(props.rows, (row) => <Item row={row} here={props.here} to={props.to} />)
        ) : props.onMove ? (
          <SortableList ids={props.rows.map((row) => row.key)} onMove={props.onMove}>
            {shown.map((row) => (
              <SortableRow
                key={row.key}
                id={row.key}
                name={row.name}
                onStep={(by) => {
                  const at = props.rows.indexOf(row);
                  props.onMove?.(at, at + by);
                }}
              >
                <Item row={row} here={props.here} to={props.to} />
              </SortableRow>
            ))}
          </SortableList>
        ) : (
          shown.map((row) => <Item key={row.key} row={row} here={props.here} to={props.to} />)
        )}
        {props.note && props.rows.length > 1 && <p className="hint p-3">{props.note}</p>}
        {finds && <End pages={finds.pages} />}
        {props.rows.length === 0 && !text.trim() && (
          <Empty title={`No ${props.what} yet`}>Make the first one with N.</Empty>
        )}
        {text.trim() && shown.length === 0 && <p className="hint p-3">None has that in its name.</p>}
      </nav>
      <div className="flex flex-none items-center gap-2 border-t border-line p-3">
        {props.action}
        <Only>
          <span className="hint">N</span>
        </Only>
      </div>
    </>
  );
}

/** The end of the rows that are there: it watches from when it is drawn. */
function End({ pages }: { pages: Pages }) {
  return <div ref={useLoadOn(pages)} className="h-px" />;
}

function Item({ row, here, to }: { row: SideRow; here?: string; to: (key: string) => string }) {
  return (
    <NavLink
      data-item
      data-mark={row.key}
      to={to(row.key)}
      title={row.name}
      className={() => `side !flex min-w-0 items-baseline gap-2 ${row.key === here ? "here" : ""}`}
      style={{ paddingLeft: 12 + (row.depth ?? 0) * 16 }}
    >
      <span className="truncate">{row.name}</span>
      {row.count !== undefined && <span className="ml-auto text-ink-3">{number(row.count)}</span>}
    </NavLink>
  );
}

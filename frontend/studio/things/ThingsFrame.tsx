import { type ReactNode, useEffect, useLayoutEffect, useRef } from "react";
import { useNavigate } from "react-router";
import { NOUNS, type NounCode } from "../api/nouns";
import { useSaving } from "../state/saving";
import { makeThing } from "../state/things";
import { Empty } from "../ui/basics";
import { focusOnceThere, nextIn } from "../ui/focus";
import { Split } from "../ui/Split";
import { NewThing } from "./NewThing";
import { type Finds, SideList, type SideRow, type Tree } from "./SideList";

/** All things of a sort at the left, the one that is open in the middle, and its pane. */
export function ThingsFrame(props: {
  noun: NounCode;
  rows: SideRow[];
  here: string | undefined;
  /** What is chosen besides the name when one is made. */
  more?: Record<string, unknown>;
  choices?: ReactNode;
  /** How things are put in another order, where they stand in one, and what the order means. */
  onMove?: (from: number, to: number) => void;
  note?: string;
  tree?: Tree;
  /** Where rows come by pages and are found by the server: the query that goes along with them, and what filters them. */
  search?: string;
  finds?: Finds;
  filter?: ReactNode;
  /** Whether the thing asked for is there, though its row may be on a later page. */
  opened?: boolean;
  sheet: ReactNode;
  pane: ReactNode;
}) {
  const { rows, here, search = "" } = props;
  const { what, base } = NOUNS[props.noun];
  const go = useNavigate();
  const sheet = useRef<HTMLDivElement>(null);
  const list = useRef<HTMLElement>(null);
  const first = rows[0]?.key;
  useEffect(() => {
    if (!here && first) go({ pathname: `${base}/${first}`, search }, { replace: true });
  }, [here, first, base, go, search]);
  const known = props.opened ?? rows.some((row) => row.key === here);
  const makeAndGo = useMakeThing(props.noun, search);
  // What stands on the screen, not what is being worked out.
  const shown = useRef<string | null>(null);
  useLayoutEffect(() => {
    shown.current = known ? (here ?? null) : null;
  }, [known, here]);
  async function make(name: string) {
    const key = await makeAndGo(name, props.more ?? {});
    focusOnceThere(() => (shown.current === key ? (nextIn(sheet.current) ?? row(list.current, key)) : null));
  }
  const nothing =
    rows.length === 0 && !props.finds?.text ? (
      <Empty title={`No ${what} yet`}>Make the first one with N: its name is enough.</Empty>
    ) : (
      here && (
        <Empty title={`There is no ${what} “${here}”`}>
          It may have been removed. Choose one at the left; what was removed can be undone in Release, under History.
        </Empty>
      )
    );
  return (
    <Split
      id={base.slice(1).replace("/", "-")}
      parts={[
        {
          id: "all",
          min: 190,
          start: "19",
          className: "pane",
          children: (
            <SideList
              nav={list}
              what={what}
              rows={rows}
              here={here}
              to={(key) => (search ? `${base}/${key}?${search}` : `${base}/${key}`)}
              tree={props.tree}
              finds={props.finds}
              filter={props.filter}
              onMove={props.onMove}
              note={props.note}
              action={
                <NewThing what={what} onMake={make}>
                  {props.choices}
                </NewThing>
              }
            />
          ),
        },
        {
          id: "sheet",
          min: 420,
          start: "50",
          children: (
            <div ref={sheet} className="contents">
              {known ? props.sheet : nothing}
            </div>
          ),
        },
        { id: "pane", min: 290, start: "31", className: "pane", folds: "Pane", children: known && props.pane },
      ]}
    />
  );
}

/** The row of a thing in the list. */
function row(list: HTMLElement | null, key: string): HTMLElement | null {
  return list?.querySelector<HTMLElement>(`[data-item][data-mark="${CSS.escape(key)}"]`) ?? null;
}

/** Make a thing of a noun from its name, and open it; gives its key. */
export function useMakeThing(noun: NounCode, search = "") {
  const go = useNavigate();
  const { freshen } = useSaving();
  return async (name: string, more: Record<string, unknown> = {}) => {
    const key = await makeThing(noun, name, more);
    await freshen(noun);
    go({ pathname: `${NOUNS[noun].base}/${key}`, search });
    return key;
  };
}

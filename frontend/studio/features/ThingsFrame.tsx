import { type ReactNode, useEffect } from "react";
import { useNavigate } from "react-router";
import { useSaving } from "../app/saving";
import { Empty } from "../ui/basics";
import { Split } from "../ui/Split";
import { NewThing } from "./NewThing";
import { SideList, type SideRow } from "./SideList";

/** All things of a sort at the left, the one that is open in the middle, and its pane. */
export function ThingsFrame(props: {
  what: string;
  /** Where they live: `/define/lists`. */
  base: string;
  rows: SideRow[];
  here: string | undefined;
  /** Makes one from its name and gives its key. */
  onMake: (name: string) => Promise<string>;
  choices?: ReactNode;
  sheet: ReactNode;
  pane: ReactNode;
}) {
  const { what, base, rows, here } = props;
  const go = useNavigate();
  const { save } = useSaving();
  const first = rows[0]?.key;
  useEffect(() => {
    if (!here && first) go(`${base}/${first}`, { replace: true });
  }, [here, first, base, go]);
  const known = rows.some((row) => row.key === here);
  async function make(name: string) {
    const key = await props.onMake(name);
    await save(async () => key);
    go(`${base}/${key}`);
  }
  const nothing =
    rows.length === 0 ? (
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
              what={what}
              rows={rows}
              here={here}
              to={(key) => `${base}/${key}`}
              action={
                <NewThing what={what} onMake={make}>
                  {props.choices}
                </NewThing>
              }
            />
          ),
        },
        { id: "sheet", min: 420, start: "50", children: known ? props.sheet : nothing },
        { id: "pane", min: 290, start: "31", className: "pane", folds: "Pane", children: known && props.pane },
      ]}
    />
  );
}

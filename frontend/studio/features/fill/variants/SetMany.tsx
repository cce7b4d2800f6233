import { useState } from "react";
import { Button, counted, Line, Popover } from "../../../ui/basics";
import type { GridColumn } from "../../../ui/grid/column";
import type { Put } from "../../../ui/grid/useStrokes";
import { Input } from "../../../ui/inputs";
import { Select } from "../../../ui/Select";
import type { GridRow } from "./useVariants";

/** One value for many variants at once: those that are ticked, or all that are shown. */
export function SetMany(props: {
  columns: readonly GridColumn<GridRow>[];
  count: number;
  ticked: boolean;
  onSet: (column: GridColumn<GridRow>, value: unknown) => ReturnType<Put>;
}) {
  const [open, setOpen] = useState(false);
  const [column, setColumn] = useState(props.columns[0]?.key ?? "");
  const [text, setText] = useState("");
  const [wrong, setWrong] = useState<string | null>(null);
  const whom = `${props.ticked ? "" : "all "}${counted(props.count, "variant")}`;
  return (
    <Popover
      label="Set many at once"
      open={open}
      onOpen={setOpen}
      trigger={<Button right="edit">Set {props.ticked ? `${props.count} ticked` : "all"}…</Button>}
    >
      <form
        onSubmit={async (event) => {
          event.preventDefault();
          const found = props.columns.find(({ key }) => key === column);
          const read = found?.read?.(text);
          if (!found || !read) return;
          if ("wrong" in read) return setWrong(read.wrong);
          const refused = await props.onSet(found, read.value);
          setWrong(refused ? (typeof refused === "string" ? refused : refused.why) : null);
          if (refused) return;
          setOpen(false);
          setText("");
        }}
      >
        <Line label="Of">{(id) => <output id={id}>{whom}</output>}</Line>
        <Line label="Set">
          {(id) => (
            <Select id={id} className="input" value={column} onChange={(event) => setColumn(event.target.value)}>
              {props.columns.map(({ key, name }) => (
                <option key={key} value={key}>
                  {name}
                </option>
              ))}
            </Select>
          )}
        </Line>
        <Line label="To" note="Empty takes their own value away" wrong={wrong}>
          {(id) => <Input id={id} className="input" value={text} onChange={(event) => setText(event.target.value)} />}
        </Line>
        <div className="mt-2 flex justify-end gap-2">
          <Button onClick={() => setOpen(false)}>Leave it</Button>
          <Button look="primary" type="submit">
            Set them
          </Button>
        </div>
      </form>
    </Popover>
  );
}

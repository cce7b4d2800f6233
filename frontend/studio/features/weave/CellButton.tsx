import { useQuery } from "@tanstack/react-query";
import { client, data, type Schemas } from "../../api/client";
import { ask } from "../../api/queries";
import { useSaving } from "../../app/saving";
import { Button, counted, Popover, Segments, WEFT_WORDS, Weft, type WeftState } from "../../ui/basics";
import { TextBox } from "../../ui/TextBox";

type Props = {
  row: Schemas["WeaveRow"];
  cell: Schemas["CellOut"];
  scope: string;
  scopeName: string;
  open: boolean;
  onCell: (surface: string | null) => void;
  onWhy: (surface: string) => void;
};

/** A cell of the weave: Space toggles it, Enter opens all its settings, W asks why. */
export function CellButton(props: Props) {
  const { row, cell } = props;
  const put = usePut(props);
  const surfaces = useQuery(ask.meta()).data?.surfaces ?? [];
  const name = surfaces.find((one) => one.code === cell.surface)?.name ?? cell.surface;
  const shown = cell.settings.shown;
  const told = `${row.name} on the ${name}: ${WEFT_WORDS[cell.state as WeftState]}${shown && cell.state === "inherited" ? ` from ${shown.said}` : ""}`;
  return (
    <Popover
      label={told}
      width={372}
      open={props.open}
      onOpen={(open) => props.onCell(open ? cell.surface : null)}
      trigger={
        <button
          type="button"
          data-cell
          data-state={cell.state}
          className="inline-grid h-7 w-10 place-items-center"
          aria-label={told}
          title={cell.reason || told}
          onKeyDown={(event) => {
            if (event.key === " ") {
              event.preventDefault();
              put({ shown: !shown?.value });
            }
            if (event.key === "w") {
              event.preventDefault();
              event.stopPropagation();
              props.onWhy(cell.surface);
            }
          }}
        >
          <Weft state={cell.state as WeftState} />
        </button>
      }
    >
      <Settings {...props} name={name} put={put} />
    </Popover>
  );
}

function usePut({ row, cell, scope }: Props) {
  const { save } = useSaving();
  return (set: Record<string, unknown>) => {
    const write = (version: number) =>
      data(client.PATCH("/api/settings", { body: { scope, field: row.key, surface: cell.surface, set, version } }));
    return save(() => write(cell.version), { over: write });
  };
}

function Settings({
  row,
  cell,
  scope,
  scopeName,
  name,
  put,
  onWhy,
}: Props & { name: string; put: (set: Record<string, unknown>) => Promise<unknown> }) {
  const own = cell.own as Record<string, unknown>;
  const value = (prop: string) => cell.settings[prop]?.value as never;
  const devices = (cell.settings.devices?.value ?? []) as string[];
  const from = (prop: string) =>
    prop in own ? (
      <button
        type="button"
        className="link text-left text-[12px] font-semibold text-woad"
        title="Back to inherited"
        onClick={() => put({ [prop]: null })}
      >
        set here ✕
      </button>
    ) : (
      <span className="text-[12px] text-ink-3">
        {cell.settings[prop]?.origin === "default" ? "default" : `from ${cell.settings[prop]?.said}`}
      </span>
    );
  return (
    <div>
      <header className="mb-2 flex items-baseline justify-between gap-3">
        <h3 className="min-w-0">
          {row.name} on the {name}
        </h3>
        <span className="flex-none truncate text-ink-3">{scopeName}</span>
      </header>
      <div className="grid grid-cols-[64px_minmax(0,1fr)_84px] items-center gap-x-2 gap-y-1.5">
        <span className="text-ink-2">Show</span>
        <Segments
          label="Show"
          value={"shown" in own ? (own.shown ? "yes" : "no") : "inherit"}
          choices={[
            ["yes", "Yes"],
            ["no", "No"],
            ["inherit", "Inherit"],
          ]}
          onChoose={(one) => put({ shown: one === "inherit" ? null : one === "yes" })}
        />
        {from("shown")}
        <span className="text-ink-2">Label</span>
        <Segments
          label="Label"
          value={value("label")}
          choices={[
            ["beside", "beside"],
            ["above", "above"],
            ["hidden", "none"],
          ]}
          onChoose={(label) => put({ label })}
        />
        {from("label")}
        <span className="text-ink-2">Words</span>
        <TextBox
          aria-label="Words of the label"
          placeholder="the field's own label"
          value={String(value("label_text") ?? "")}
          onCommit={(text) => put({ label_text: text.trim() || null })}
        />
        {from("label_text")}
        <span className="text-ink-2">If empty</span>
        <Segments
          label="If empty"
          value={value("empty")}
          choices={[
            ["omit", "left out"],
            ["dash", "a dash"],
          ]}
          onChoose={(empty) => put({ empty })}
        />
        {from("empty")}
        <span className="text-ink-2">Devices</span>
        <span className="flex flex-wrap gap-x-2.5">
          {["phone", "tablet", "desktop"].map((one) => (
            <label key={one} className="flex min-h-6 items-center gap-1">
              <input
                type="checkbox"
                className="tick"
                checked={devices.includes(one)}
                disabled={devices.length === 1 && devices[0] === one}
                onChange={(event) =>
                  put({
                    devices: ["phone", "tablet", "desktop"].filter((other) =>
                      other === one ? event.target.checked : devices.includes(other),
                    ),
                  })
                }
              />
              {one}
            </label>
          ))}
        </span>
        {from("devices")}
      </div>
      {cell.reason && <p className="wrongly mt-2">{cell.reason}</p>}
      <footer className="mt-3 flex items-center justify-between gap-2 border-t border-line pt-2.5">
        <Touches scope={scope} field={row.key} cell={cell} />
        <span className="flex flex-none gap-1.5">
          <Button onClick={() => onWhy(cell.surface)}>Why</Button>
          <Button
            disabled={Object.keys(own).length === 0}
            onClick={() => put(Object.fromEntries(Object.keys(own).map((prop) => [prop, null])))}
          >
            Reset to inherited
          </Button>
        </span>
      </footer>
    </div>
  );
}

/** How many pages and cards turning the cell over would change. */
function Touches({ scope, field, cell }: { scope: string; field: string; cell: Schemas["CellOut"] }) {
  const set = { shown: !cell.settings.shown?.value };
  const touched = useQuery({
    queryKey: ["touches", scope, field, cell.surface, cell.version, set],
    queryFn: () =>
      data(
        client.POST("/api/settings/consequences", {
          body: { scope, field, surface: cell.surface, set, version: cell.version },
        }),
      ),
  }).data;
  return (
    <span className="hint" data-touches>
      {touched
        ? `${set.shown ? "showing" : "hiding"} it changes ${counted(touched.pages, "page")}, ${counted(touched.cards, "card")}`
        : ""}
    </span>
  );
}

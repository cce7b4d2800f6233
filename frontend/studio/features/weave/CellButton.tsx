import { useQuery } from "@tanstack/react-query";
import { client, data, type Schemas } from "../../api/client";
import { ask } from "../../api/queries";
import { useSaving } from "../../app/saving";
import { PROPERTY_CONTROLS } from "../../controls/properties";
import { Button, Popover, WEFT_WORDS, Weft, type WeftState } from "../../ui/basics";
import { useDocumentWords } from "../Consequences";

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
  const name = surfaces.find(({ code }) => code === cell.surface)?.name ?? cell.surface;
  const shown = cell.settings.shown;
  const words = `${row.name} on the ${name}: ${WEFT_WORDS[cell.state as WeftState]}${shown && cell.state === "inherited" ? ` from ${shown.origin_name}` : ""}`;
  return (
    <Popover
      label={words}
      width={390}
      open={props.open}
      onOpen={(open) => props.onCell(open ? cell.surface : null)}
      trigger={
        <button
          type="button"
          data-cell
          data-state={cell.state}
          className="inline-grid h-7 w-10 place-items-center"
          aria-label={words}
          title={cell.reason || words}
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

/** Writing a cell: each write goes on from the version the last one answered with. */
function usePut({ row, cell, scope }: Props) {
  const { save, latest } = useSaving();
  const mark = `display_setting/${scope}/${row.key}/${cell.surface}`;
  const known = latest.get(mark) as { drawn: number | null; version: number | null } | undefined;
  // A cell drawn anew says itself where it stands.
  if (!known || known.drawn !== cell.version) latest.set(mark, { drawn: cell.version, version: cell.version });
  const current = () => (latest.get(mark) as { version: number | null }).version;
  return (set: Record<string, unknown>) => {
    const write = async (version: number | null) => {
      const answer = await data(
        client.PATCH("/api/display_settings", {
          body: { scope, field: row.key, surface: cell.surface, set, version },
        }),
      );
      latest.set(mark, { drawn: cell.version, version: answer.version });
      return answer;
    };
    return save(() => write(current()), { noun: "display_setting", over: write });
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
  const properties = useQuery(ask.meta()).data?.properties ?? [];
  const own = cell.own as Record<string, unknown>;
  const from = (code: string) =>
    code in own ? (
      <button
        type="button"
        className="link text-left text-[12px] font-semibold text-woad"
        title="Back to inherited"
        onClick={() => put({ [code]: null })}
      >
        set here ✕
      </button>
    ) : (
      <span className="text-[12px] text-ink-3">
        {cell.settings[code]?.origin === "default" ? "default" : `from ${cell.settings[code]?.origin_name}`}
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
      <div className="grid grid-cols-[82px_minmax(0,1fr)_84px] items-center gap-x-2 gap-y-1.5">
        {properties
          .filter((property) => cell.properties.includes(property.code))
          .map((property) => {
            const Control = PROPERTY_CONTROLS[property.control];
            return (
              Control && (
                <div key={property.code} className="contents">
                  <span className="text-ink-2">{property.name}</span>
                  <Control
                    property={property}
                    value={cell.settings[property.code]?.value}
                    own={own[property.code]}
                    onPut={(value) => void put({ [property.code]: value })}
                  />
                  {from(property.code)}
                </div>
              )
            );
          })}
      </div>
      {cell.reason && <p className="wrongly mt-2">{cell.reason}</p>}
      <footer className="mt-3 flex items-center justify-between gap-2 border-t border-line pt-2.5">
        <Touches scope={scope} field={row.key} cell={cell} />
        <span className="flex flex-none gap-1.5">
          <Button onClick={() => onWhy(cell.surface)}>Why</Button>
          <Button
            disabled={Object.keys(own).length === 0}
            onClick={() => put(Object.fromEntries(Object.keys(own).map((code) => [code, null])))}
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
  const words = useDocumentWords();
  const set = { shown: !cell.settings.shown?.value };
  const touched = useQuery({
    queryKey: ["touches", scope, field, cell.surface, cell.version, set],
    queryFn: () =>
      data(
        client.POST("/api/display_settings/consequences", {
          body: { scope, field, surface: cell.surface, set, version: cell.version },
        }),
      ),
  }).data;
  return (
    <span className="hint" data-touches>
      {touched ? `${set.shown ? "showing" : "hiding"} it changes ${words(touched.surfaces)}` : ""}
    </span>
  );
}

import { Link } from "react-router";
import type { Schemas } from "../../../api/client";
import { PRODUCT, type Things } from "../../../api/nouns";
import { OPTION_CONTROLS } from "../../../controls/options";
import { asText } from "../../../kinds/base";
import { counted, FillBar } from "../../../ui/basics";
import { moveFocus } from "../../../ui/keys";
import { useMay } from "../../../ui/rights";
import { Tick } from "../../../ui/Ticked";
import { useGrowing } from "../../../ui/useGrowing";

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

type Props = {
  rows: Use[];
  here?: string;
  meta: Schemas["MetaOut"];
  ticked: ReadonlySet<string>;
  onTick: (key: string, range: boolean) => void;
  onOpen: (key: string) => void;
};

/** Fields in lines: opened by a press, ticked by one with Ctrl or Shift, or by Space where the keyboard is. */
export function FieldRows(props: Props) {
  const may = useMay("edit");
  const keys = (event: React.KeyboardEvent<HTMLElement>) => {
    const key = (event.target as HTMLElement).closest<HTMLElement>("[data-mark]")?.dataset.mark;
    if (event.key !== " " || !may || !key || !props.rows.find(({ thing }) => thing.key === key)?.own)
      return moveFocus(event);
    event.preventDefault();
    props.onTick(key, event.shiftKey);
  };
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
        <tbody onKeyDown={keys}>
          {props.rows.slice(0, Math.max(count, at + 1)).map((use) => {
            const field = use.thing;
            const share = use.products ? Math.floor((100 * use.filled) / use.products) : 0;
            const isHere = field.key === props.here;
            return (
              <tr
                key={field.key}
                className={isHere ? "here" : ""}
                data-mark={field.key}
                onClick={(event) =>
                  use.own && may && (event.ctrlKey || event.metaKey || event.shiftKey)
                    ? props.onTick(field.key, event.shiftKey)
                    : props.onOpen(field.key)
                }
              >
                <td>
                  {use.own ? (
                    <Tick
                      name={field.name}
                      className="mr-1.5 align-[-2px]"
                      stop={false}
                      ticked={props.ticked.has(field.key)}
                      onTick={(range) => props.onTick(field.key, range)}
                    />
                  ) : (
                    may && <span className="mr-1.5 inline-block w-[13px]" />
                  )}
                  <Link
                    to={`/define/fields/${field.key}${window.location.search}`}
                    data-item
                    aria-current={isHere || undefined}
                    title={field.name}
                    onFocus={(event) => event.currentTarget.matches(":focus-visible") && props.onOpen(field.key)}
                    onClick={(event) => {
                      event.stopPropagation();
                      if (!use.own || !may || !(event.ctrlKey || event.metaKey || event.shiftKey)) return;
                      event.preventDefault();
                      props.onTick(field.key, event.shiftKey);
                    }}
                  >
                    {field.name}
                  </Link>
                </td>
                <td className="key" title={field.key}>
                  {field.key}
                </td>
                <td>{kindWords(use, props.meta.kinds)}</td>
                <td className={!use.own || use.types.length || use.products ? "" : "text-madder"}>
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

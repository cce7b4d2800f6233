import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { Link } from "react-router";
import type { Schemas } from "../../../api/client";
import type { Things } from "../../../api/nouns";
import { ask } from "../../../api/queries";
import { Saved } from "../../../state/saving";
import { counted, Empty } from "../../../ui/basics";
import { Input } from "../../../ui/inputs";
import { moveFocus } from "../../../ui/keys";
import { Opening } from "../../../ui/Opening";
import { ForAll } from "../../../ui/rights";
import { Select } from "../../../ui/Select";
import { PaneHead } from "../../../ui/Split";
import { Asks } from "../sheet/SheetView";
import { Tighten } from "./Tighten";
import { useTypeWrites } from "./useTypeWrites";

type TypeRow = Things["product_type"];
type Need = Schemas["EffectiveOut"]["need"];
const NEEDS: Need[] = ["optional", "wanted", "required"];

/** All fields of a type in set order, with where each comes from and how much it is needed here. */
export function TypeSheet({ row, types }: { row: TypeRow; types: TypeRow[] }) {
  const type = row.thing;
  const fields = useQuery(ask.typeFields(type.key)).data?.fields;
  const sets = useQuery(ask.things("field_set")).data ?? [];
  const { putTold } = useTypeWrites(row);
  const [only, setOnly] = useState(false);
  if (!fields) return <Opening />;
  const typeName = (key: string | null) => types.find(({ thing }) => thing.key === key)?.thing.name ?? "";
  const setName = (key: string) => sets.find(({ thing }) => thing.key === key)?.thing.name ?? key;
  const groups = new Map<string, Schemas["EffectiveOut"][]>();
  for (const effective of fields) {
    const set = sets.find(({ thing }) => thing.key === effective.set)?.thing;
    const section =
      set && set.sections.length > 1 ? ` · ${set.sections.find((s) => s.key === effective.section)?.name ?? ""}` : "";
    const title = effective.type === null ? "Every product" : set ? `${set.name}${section}` : "Single fields";
    const name = `${title}|${effective.type === null ? "built in" : `by ${typeName(effective.type)}`}`;
    if (!only || effective.type === type.key || effective.need_from === type.key || effective.said_by === type.key)
      groups.set(name, [...(groups.get(name) ?? []), effective]);
  }
  function need(effective: Schemas["EffectiveOut"], to: Need) {
    const changesOf = (now: TypeRow["thing"]) => {
      const { [effective.field.key]: _, ...needs } = now.needs;
      return { needs: to === effective.field.need ? needs : { ...needs, [effective.field.key]: to } };
    };
    putTold(changesOf, `${effective.field.name} ${to} on ${type.name}`);
  }
  return (
    <>
      <PaneHead title={type.name} note={`${counted(fields.length, "field")}, ${counted(row.below, "product")}`}>
        <Saved />
        <label className="flex items-center gap-1.5">
          <ForAll>
            <Input
              type="checkbox"
              className="tick"
              checked={only}
              onChange={(event) => setOnly(event.target.checked)}
            />
          </ForAll>{" "}
          only what it sets itself
        </label>
      </PaneHead>
      <div className="scroll min-h-0 flex-1">
        <table className="rows" aria-label={`Fields of ${type.name}`}>
          <colgroup>
            <col style={{ width: "34%" }} />
            <col style={{ width: "28%" }} />
            <col style={{ width: "38%" }} />
          </colgroup>
          <thead>
            <tr>
              <th>Field</th>
              <th>Key</th>
              <th>Need</th>
            </tr>
          </thead>
          {[...groups].map(([name, rows]) => {
            const [title, note] = name.split("|");
            return (
              <tbody key={name} onKeyDown={moveFocus}>
                <tr className="!cursor-default">
                  <th colSpan={3} scope="colgroup" className="band !static !shadow-none">
                    {title} <span>{note}</span>
                  </th>
                </tr>
                {rows.map((effective) => (
                  <tr key={effective.field.key} className="!cursor-default">
                    <td>
                      <Link
                        data-item
                        to={`/define/fields/${effective.field.key}`}
                        className="hover:underline"
                        title={effective.field.name}
                      >
                        {effective.field.name}
                      </Link>
                      <Asks asks={effective.asks} need={effective.need} names={typeName} />
                      {effective.sets.length > 1 && (
                        <span className="hint block">by {effective.sets.map(setName).join(" and ")}: one value</span>
                      )}
                    </td>
                    <td className="key">{effective.field.key}</td>
                    <td>
                      {effective.computed ? (
                        <span className="hint">computed</span>
                      ) : (
                        <span className="flex items-center gap-2">
                          <Select
                            className={`input !w-[96px] !min-h-[26px] !py-0 ${effective.need === "required" ? "font-semibold" : ""}`}
                            aria-label={`Need of ${effective.field.name}`}
                            value={effective.need}
                            onChange={(event) => need(effective, event.target.value as Need)}
                          >
                            {NEEDS.map((value) => (
                              <option
                                key={value}
                                value={value}
                                disabled={NEEDS.indexOf(value) < NEEDS.indexOf(floor(effective, type.key))}
                              >
                                {value}
                              </option>
                            ))}
                          </Select>
                          {effective.need_from && (
                            <span className={`tag ${effective.need_from === type.key ? "woad" : ""}`}>
                              {effective.need_from === type.key ? "set here" : `by ${typeName(effective.need_from)}`}
                            </span>
                          )}
                          <span className="ml-auto">
                            <Tighten
                              row={row}
                              effective={effective}
                              by={
                                effective.said_by && effective.said_by !== type.key ? typeName(effective.said_by) : ""
                              }
                            />
                          </span>
                        </span>
                      )}
                    </td>
                  </tr>
                ))}
              </tbody>
            );
          })}
        </table>
        {groups.size === 0 && (
          <Empty title="It sets nothing itself">All its fields come from the types above it.</Empty>
        )}
      </div>
    </>
  );
}

/** The least a type may ask: what the field or an ancestor asks already. */
function floor(effective: Schemas["EffectiveOut"], type: string): Need {
  return effective.need_from !== null && effective.need_from !== type ? effective.need : effective.field.need;
}

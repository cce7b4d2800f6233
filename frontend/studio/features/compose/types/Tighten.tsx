import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import type { Schemas } from "../../../api/client";
import type { Things } from "../../../api/nouns";
import { ask } from "../../../api/queries";
import { LimitsEditor } from "../../../controls/LimitsEditor";
import { kindUi } from "../../../kinds";
import { asText } from "../../../kinds/base";
import { Button, Line, Popover } from "../../../ui/basics";
import { TextBox } from "../../../ui/TextBox";
import { useTypeWrites } from "./useTypeWrites";

type TypeRow = Things["product_type"];
type Own = NonNullable<TypeRow["thing"]["own"]>[string];

const NOTHING: Own = { limits: {}, default: null, help: "" };

/** What a type says of a field beyond its definition: stricter limits, a default, help of its own. */
export function Tighten({ row, effective, by }: { row: TypeRow; effective: Schemas["EffectiveOut"]; by: string }) {
  const { field } = effective;
  const [open, setOpen] = useState(false);
  const { putTold, wrong } = useTypeWrites(row);
  const kind = useQuery(ask.meta()).data?.kinds.find(({ code }) => code === field.kind);
  const said: Own | undefined = row.thing.own?.[field.key];
  const own = said ?? NOTHING;
  const says = said !== undefined;
  const put = (changes: Partial<Own>) =>
    putTold(
      (now) => ({ own: { ...now.own, [field.key]: { ...NOTHING, ...now.own?.[field.key], ...changes } } }),
      `Change ${field.name} on ${row.thing.name}`,
    );
  const back = () =>
    putTold((now) => {
      const { [field.key]: _, ...rest } = now.own ?? {};
      return { own: rest };
    }, `${field.name} as inherited on ${row.thing.name}`);
  return (
    <Popover
      label={`What ${row.thing.name} says of ${field.name}`}
      width={380}
      open={open}
      onOpen={setOpen}
      trigger={
        <button type="button" className={`link flex-none text-[12px] ${says ? "font-semibold" : ""}`}>
          {says ? "says more" : by ? `as ${by} says` : "more"}
          <span className="sr"> of {field.name}</span>
        </button>
      }
    >
      <h3>
        {field.name} <span className="font-normal text-ink-3">on {row.thing.name}</span>
      </h3>
      <p className="hint">Stricter than its definition, never looser. What is left empty is as inherited.</p>
      <LimitsEditor
        field={{ many: field.many, limits: own.limits ?? {} }}
        kind={kind}
        wrongAt={() => null}
        onPut={(limits) => put({ limits })}
      />
      {!field.many && kind?.takes_default && (
        <Line label="Default">
          {(id) => (
            <TextBox
              id={id}
              value={
                own.default === null || own.default === undefined
                  ? ""
                  : (kindUi(field.kind).typed?.(own.default as never) ?? asText(own.default))
              }
              onCommit={(text) => put({ default: text.trim() || null })}
            />
          )}
        </Line>
      )}
      <Line label="Help for staff">
        {(id) => <TextBox id={id} rows={2} value={own.help ?? ""} onCommit={(help) => put({ help })} />}
      </Line>
      {wrong && (
        <p className="wrongly mt-2" role="alert">
          {wrong.text}
        </p>
      )}
      {says && (
        <div className="mt-3 flex justify-end">
          <Button right="edit" onClick={back}>
            Back to inherited
          </Button>
        </div>
      )}
    </Popover>
  );
}

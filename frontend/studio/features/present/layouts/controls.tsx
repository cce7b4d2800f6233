import { useQuery } from "@tanstack/react-query";
import type { ReactNode } from "react";
import { ask } from "../../../api/queries";
import { PROPERTY_CONTROLS } from "../../../controls/properties";
import { Picker } from "../../../things/FieldPicker";
import { Segments } from "../../../ui/basics";
import { IconMark } from "../../../ui/IconMark";
import { Input } from "../../../ui/inputs";
import { Select } from "../../../ui/Select";
import { TextBox } from "../../../ui/TextBox";
import { FieldKey, FieldKeys } from "./fields";
import { Chip, type MemberProps } from "./parts";
import { PictureControl } from "./picture";
import { PinsControl } from "./pins";

function ofProperty(props: MemberProps): ReactNode {
  const Control = PROPERTY_CONTROLS[props.member.control];
  return (
    Control && (
      <Control
        property={props.member}
        value={props.value ?? props.member.default}
        own={props.block[props.member.code]}
        onPut={props.onPut}
      />
    )
  );
}

function Tick({ id, member, value, onPut }: MemberProps) {
  return (
    <Input
      id={id}
      type="checkbox"
      className="tick mt-1.5"
      aria-label={member.name}
      checked={value === true}
      onChange={(event) => onPut(event.target.checked || null)}
    />
  );
}

function Line({ id, member, value, onPut }: MemberProps) {
  return (
    <TextBox
      id={id}
      aria-label={member.name}
      value={String(value ?? "")}
      onCommit={(text) => onPut(text.trim() || null)}
    />
  );
}

/** Text with values of fields in braces; a field is put in by choosing it. */
function Phrases({ id, member, value, onPut }: MemberProps) {
  const fields = useQuery(ask.askedFields()).data?.fields ?? [];
  const text = String(value ?? "");
  return (
    <div>
      <TextBox
        id={id}
        rows={4}
        aria-label={member.name}
        value={text}
        onCommit={(typed) => onPut(typed.trim() || null)}
      />
      <span className="mt-1 flex items-center gap-2">
        <Picker
          label="Put in a field"
          what="field"
          rows={fields.filter(({ key }) => key !== "type").map(({ key, name }) => ({ key, name }))}
          onPick={(key) => onPut(`${text}${text && !text.endsWith(" ") ? " " : ""}{${key}}`)}
        />
        <span className="hint">[a part in brackets] goes when its field is empty</span>
      </span>
    </div>
  );
}

function Icon({ member, value, onPut }: MemberProps) {
  const icons = useQuery(ask.meta()).data?.icons ?? [];
  return (
    <fieldset className="flex flex-wrap gap-1" aria-label={member.name}>
      {[{ code: "", name: "none" }, ...icons].map(({ code, name }) => (
        <button
          key={code}
          type="button"
          className={`grid h-7 w-7 place-items-center rounded border ${code === (value ?? "") ? "border-woad bg-woad-tint text-woad" : "border-line"}`}
          aria-pressed={code === (value ?? "")}
          aria-label={name}
          title={name}
          onClick={() => onPut(code || null)}
        >
          {code ? <IconMark code={code} /> : <span className="text-[10px] text-ink-3">none</span>}
        </button>
      ))}
    </fieldset>
  );
}

type Takes = { fields?: string[]; sets?: string[]; sections?: [string, string][]; rest?: boolean };

/** What a slot shows: fields by name, whole sets, or all that no other place has. */
function TakesControl({ kind, value, subject, onPut }: MemberProps) {
  const fields = useQuery(ask.things("field")).data ?? [];
  const sets = useQuery(ask.things("field_set")).data ?? [];
  const takes = (value ?? {}) as Takes;
  const named = takes.fields ?? [];
  const whole = takes.sets ?? [];
  const here = fields.filter(({ own, thing }) => !own || thing.subject === subject);
  const fits = here.filter(({ thing }) => kind.kinds.length === 0 || kind.kinds.includes(thing.kind));
  const nameOf = (key: string) => fields.find(({ thing }) => thing.key === key)?.thing.name ?? key;
  const put = (changes: Takes) => onPut({ ...takes, ...changes });
  return (
    <div>
      <ul className="flex flex-wrap gap-1">
        {named.map((key) => (
          <Chip key={key} words={nameOf(key)} onOff={() => put({ fields: named.filter((other) => other !== key) })} />
        ))}
        {whole.map((key) => (
          <Chip
            key={key}
            words={`all of ${sets.find(({ thing }) => thing.key === key)?.thing.name ?? key}`}
            onOff={() => put({ sets: whole.filter((other) => other !== key) })}
          />
        ))}
      </ul>
      <div className="mt-1 flex flex-wrap items-center gap-1">
        {named.length < kind.most_fields && (
          <Picker
            label="Add a field"
            what="field"
            rows={fits
              .filter(({ thing }) => !named.includes(thing.key))
              .map(({ thing }) => ({ key: thing.key, name: thing.name }))}
            onPick={(key) => put({ fields: [...named, key] })}
          />
        )}
        {kind.most_fields > 4 && (
          <Picker
            label="Add a set"
            what="field set"
            rows={sets
              .filter(({ thing }) => !whole.includes(thing.key))
              .map(({ thing }) => ({ key: thing.key, name: thing.name }))}
            onPick={(key) => put({ sets: [...whole, key] })}
          />
        )}
      </div>
      {kind.most_fields > 4 && (
        <label className="mt-1 flex min-h-6 items-center gap-1.5">
          <Input
            type="checkbox"
            className="tick"
            checked={takes.rest === true}
            onChange={(event) => put({ rest: event.target.checked })}
          />
          and all that no other place has
        </label>
      )}
    </div>
  );
}

function Parts({ member, block, kind, onParts }: MemberProps) {
  const count = Array.isArray(block.regions) ? block.regions.length : 0;
  const numbers = Array.from({ length: kind.most_regions - kind.fewest_regions + 1 }, (_, at) =>
    String(kind.fewest_regions + at),
  );
  if (numbers.length < 2) return <span className="pt-1 text-ink-2">{count}</span>;
  return (
    <Segments
      label={member.name}
      value={String(count)}
      choices={numbers.map((text) => [text, text] as const)}
      onChoose={(text) => onParts(Number(text))}
    />
  );
}

/** Good ways to share twelve parts of the width, by how many columns there are. */
const SHARES: Record<number, readonly [string, number[]][]> = {
  2: [
    ["halves", [6, 6]],
    ["one third, two thirds", [4, 8]],
    ["two thirds, one third", [8, 4]],
    ["a quarter, the rest", [3, 9]],
    ["one below the other", [12, 12]],
  ],
  3: [
    ["thirds", [4, 4, 4]],
    ["half and quarters", [6, 3, 3]],
    ["a wide middle", [3, 6, 3]],
    ["one below the other", [12, 12, 12]],
  ],
  4: [
    ["quarters", [3, 3, 3, 3]],
    ["two and two", [6, 6, 6, 6]],
    ["one below the other", [12, 12, 12, 12]],
  ],
};
const USUAL = { phone: "one below the other", tablet: "", desktop: "" } as const;

function Widths({ member, block, value, onPut }: MemberProps) {
  const count = Array.isArray(block.regions) ? block.regions.length : 2;
  const shares = SHARES[count] ?? [];
  const widths = (value ?? {}) as Record<string, number[]>;
  return (
    <fieldset aria-label={member.name} className="grid grid-cols-[58px_minmax(0,1fr)] items-center gap-1">
      {(["phone", "tablet", "desktop"] as const).map((device) => {
        const here = JSON.stringify(widths[device] ?? null);
        const usual = USUAL[device] || shares[0]?.[0];
        return (
          <label key={device} className="contents">
            <span className="text-ink-2">{device}</span>
            <Select
              className="input"
              value={here}
              onChange={(event) => {
                const parts = JSON.parse(event.target.value) as number[] | null;
                const { [device]: _old, ...others } = widths;
                const next = parts ? { ...others, [device]: parts } : others;
                onPut(Object.keys(next).length > 0 ? next : null);
              }}
            >
              <option value="null">{usual}, as usual</option>
              {shares.map(([words, parts]) => (
                <option key={words} value={JSON.stringify(parts)}>
                  {words}
                </option>
              ))}
            </Select>
          </label>
        );
      })}
    </fieldset>
  );
}

function Copy({ id, value, onPut }: MemberProps) {
  const copies = useQuery(ask.things("shared_copy")).data ?? [];
  return (
    <Select
      id={id}
      className="input"
      value={String(value ?? "")}
      onChange={(event) => event.target.value && onPut(event.target.value)}
    >
      {!value && <option value="">choose a shared copy</option>}
      {copies.map(({ thing }) => (
        <option key={thing.key} value={thing.key}>
          {thing.name}
        </option>
      ))}
    </Select>
  );
}

/** The controls that members of blocks name: one more is one entry here. */
export const MEMBER_CONTROLS: Record<string, (props: MemberProps) => ReactNode> = {
  switch: Tick,
  choice: ofProperty,
  choices: ofProperty,
  condition: ofProperty,
  text: Line,
  phrases: Phrases,
  icon: Icon,
  takes: TakesControl,
  regions: Parts,
  widths: Widths,
  shared_copy: Copy,
  picture: PictureControl,
  pins: PinsControl,
  field_key: FieldKey,
  field_keys: FieldKeys,
};

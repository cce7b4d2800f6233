import { useQuery } from "@tanstack/react-query";
import { Command } from "cmdk";
import { X } from "lucide-react";
import { useRef, useState } from "react";
import { ask } from "../api/queries";
import { Button, Popover } from "../ui/basics";
import { Select } from "../ui/Select";
import {
  type Asked,
  BETWEEN,
  type Group,
  isGroup,
  type Join,
  newId,
  newTest,
  OVER,
  type Test,
  withAdded,
  withNode,
} from "./tree";
import { ValueControl } from "./ValueControl";

export type Wrong = ReadonlyMap<string, string>;

/** A condition in plain language: tests joined by and, or, but not; every part by mouse or by keys alone. */
export function ConditionBuilder(props: {
  value: Group;
  wrong: Wrong;
  onChange: (next: Group) => void;
  onUse?: () => void;
}) {
  const fields = useQuery(ask.askedFields()).data?.fields ?? [];
  return (
    <fieldset
      aria-label="Condition"
      className="min-w-0"
      onKeyDown={(event) => {
        if (event.key === "Enter" && event.ctrlKey && props.onUse) {
          event.preventDefault();
          props.onUse();
        }
      }}
    >
      <GroupPart {...props} fields={fields} group={props.value} top />
    </fieldset>
  );
}

type PartProps = {
  value: Group;
  wrong: Wrong;
  fields: readonly Asked[];
  onChange: (next: Group) => void;
};

function GroupPart({ group, top, ...props }: PartProps & { group: Group; top?: boolean }) {
  const { value, fields, onChange } = props;
  const box = useRef<HTMLDivElement>(null);
  const add = (into: Group, field: Asked) => {
    const test = newTest(field);
    onChange(withAdded(value, into.id, test));
    focusSoon(box, test.id);
  };
  const addGroup = (join: Join, field: Asked) => {
    const test = newTest(field);
    onChange(withAdded(value, group.id, { id: newId(), join, parts: [test] }));
    focusSoon(box, test.id);
  };
  const turn = (join: Join) => onChange(top ? { ...value, join } : withNode(value, group.id, { ...group, join }));
  const others = (["all", "any", "none"] as const).filter((join) => join !== group.join && (join !== "none" || !top));
  return (
    <div ref={box} className={top ? "" : "my-1 border-l-[3px] border-edge pl-2.5"}>
      {!top && <p className="mb-0.5 text-[12px] text-ink-2">{OVER[group.join]}</p>}
      {group.parts.map((part, index) => (
        <div key={part.id} className="flex items-start gap-2 py-[3px]">
          <span className="w-9 flex-none pt-1 text-right text-ink-2">
            {index > 0 ? (isGroup(part) && part.join === "none" ? "but" : BETWEEN[group.join]) : ""}
          </span>
          {isGroup(part) ? (
            <div className="min-w-0 flex-1">
              <GroupPart {...props} group={part} />
            </div>
          ) : (
            <TestPart {...props} test={part} />
          )}
        </div>
      ))}
      <div className="mt-1 flex flex-wrap gap-1 pl-9">
        <FieldChooser
          label={group.parts.length ? `${BETWEEN[group.join]}…` : "Choose what to ask"}
          fields={fields}
          onPick={(field) => add(group, field)}
        />
        {top &&
          group.parts.length > 0 &&
          (["any", "none"] as const)
            .filter((join) => join !== group.join)
            .map((join) => (
              <FieldChooser
                key={join}
                label={join === "none" ? "but not…" : `${BETWEEN[group.join]} one of these…`}
                fields={fields}
                onPick={(field) => addGroup(join, field)}
              />
            ))}
        {top && group.join === "any" && group.parts.length > 0 && (
          <FieldChooser label="or all of these…" fields={fields} onPick={(field) => addGroup("all", field)} />
        )}
        {group.parts.length > 1 &&
          others.map((join) => (
            <Button key={join} look="quiet" onClick={() => turn(join)}>
              make it {OVER[join]}
            </Button>
          ))}
      </div>
    </div>
  );
}

/** Put the focus on a test's first empty control, once it is there. */
function focusSoon(box: React.RefObject<HTMLDivElement | null>, id: string) {
  setTimeout(() => {
    const row = box.current?.querySelector<HTMLElement>(`[data-test="${id}"]`);
    (row?.querySelector<HTMLElement>("[data-value]") ?? row?.querySelector<HTMLElement>("select"))?.focus();
  }, 30);
}

function TestPart({ test, value, wrong, fields, onChange }: PartProps & { test: Test }) {
  const field = fields.find((field) => field.key === test.field);
  const offered = field?.tests.find((found) => found.op === test.op);
  const put = (next: Partial<Test>) => onChange(withNode(value, test.id, { ...test, ...next }));
  const why = wrong.get(test.id);
  function retest(op: string) {
    const next = field?.tests.find((found) => found.op === op);
    // What was typed serves on where the next test takes as many; what was kept is typed anew from its words.
    const typed = test.kept === undefined ? test.typed : test.typed.length ? test.typed : test.words;
    put({ op, typed: next?.takes === "one" ? typed.slice(0, 1) : typed, kept: undefined });
  }
  return (
    <div data-test={test.id} className="min-w-0 flex-1">
      <div className="flex flex-wrap items-start gap-1.5">
        <FieldChooser
          label={field?.name ?? test.field}
          solid
          fields={fields}
          onPick={(next) => put({ ...newTest(next), id: test.id })}
        />
        <Select
          className="input !w-auto border-dashed"
          aria-label={`Test of ${field?.name ?? test.field}`}
          value={test.op}
          onChange={(event) => retest(event.target.value)}
        >
          {(field?.tests ?? []).map((found) => (
            <option key={found.op} value={found.op}>
              {found.words}
            </option>
          ))}
        </Select>
        {field && offered && offered.takes !== "none" && (
          <ValueControl
            field={field}
            takes={offered.takes}
            test={test}
            wrong={Boolean(why)}
            onType={(typed) => put({ typed, kept: undefined })}
          />
        )}
        <button
          type="button"
          className="grid h-[30px] w-6 place-items-center text-ink-3"
          aria-label={`Take the test of ${field?.name ?? test.field} away`}
          onClick={() => onChange(withNode(value, test.id, null))}
        >
          <X size={13} aria-hidden="true" />
        </button>
      </div>
      {why && (
        <p className="wrongly mt-0.5" role="alert">
          {why}
        </p>
      )}
    </div>
  );
}

/** Choose a field to ask for by a few letters of its name. */
function FieldChooser(props: {
  label: string;
  solid?: boolean;
  fields: readonly Asked[];
  onPick: (field: Asked) => void;
}) {
  const [open, setOpen] = useState(false);
  const picked = useRef(false);
  return (
    <Popover
      label="Ask for a field"
      open={open}
      onOpen={setOpen}
      keepFocus={() => {
        const kept = picked.current;
        picked.current = false;
        return kept;
      }}
      trigger={
        <button type="button" className={props.solid ? "btn !min-h-[30px] font-semibold" : "btn quiet"}>
          {props.label}
        </button>
      }
    >
      <Command label="Ask for a field">
        <Command.Input className="input" placeholder="Find a field" />
        <Command.List className="scroll mt-2 max-h-64">
          <Command.Empty className="hint p-2">No field has that in its name.</Command.Empty>
          {props.fields.map((field) => (
            <Command.Item
              key={field.key}
              value={`${field.name} ${field.key}`}
              className="flex cursor-pointer items-center gap-2 rounded px-2 py-1.5 data-[selected=true]:bg-woad-tint"
              onSelect={() => {
                picked.current = true;
                setOpen(false);
                props.onPick(field);
              }}
            >
              <span className="truncate">{field.name}</span>
              <span className="key ml-auto flex-none">{field.key}</span>
            </Command.Item>
          ))}
        </Command.List>
      </Command>
    </Popover>
  );
}

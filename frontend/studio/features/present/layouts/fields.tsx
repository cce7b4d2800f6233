import { useQuery } from "@tanstack/react-query";
import { ask } from "../../../api/queries";
import { Picker } from "../../../things/FieldPicker";
import { Select } from "../../../ui/Select";
import { Chip, type MemberProps } from "./parts";

/** The shop's fields that a member can name. */
function useFields({ member, subject }: MemberProps) {
  const fields = useQuery(ask.things("field")).data ?? [];
  return fields
    .filter(({ own, thing }) => !own || thing.subject === subject)
    .filter(({ own, thing }) => (own || !member.own_fields) && thing.audience !== "staff")
    .filter(({ thing }) => member.kinds.length === 0 || member.kinds.includes(thing.kind))
    .map(({ thing }) => ({ key: thing.key, name: thing.name }));
}

/** One field, or none. */
export function FieldKey(props: MemberProps) {
  const { id, member, value, onPut } = props;
  const fields = useFields(props);
  return (
    <Select
      id={id}
      className="input"
      aria-label={member.name}
      value={String(value ?? "")}
      onChange={(event) => onPut(event.target.value || null)}
    >
      <option value="">none</option>
      {fields.map(({ key, name }) => (
        <option key={key} value={key}>
          {name}
        </option>
      ))}
    </Select>
  );
}

/** Some fields, each once. */
export function FieldKeys(props: MemberProps) {
  const { member, value, onPut } = props;
  const fields = useFields(props);
  const chosen = (Array.isArray(value) ? value : []) as string[];
  return (
    <div>
      <ul className="flex flex-wrap gap-1">
        {chosen.map((key) => (
          <Chip
            key={key}
            words={fields.find((field) => field.key === key)?.name ?? key}
            onOff={() => onPut(chosen.filter((other) => other !== key))}
          />
        ))}
      </ul>
      <Picker
        label={`${member.name}…`}
        what="field"
        rows={fields.filter(({ key }) => !chosen.includes(key))}
        onPick={(key) => onPut([...chosen, key])}
      />
    </div>
  );
}

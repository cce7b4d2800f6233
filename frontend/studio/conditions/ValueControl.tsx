import { useQuery } from "@tanstack/react-query";
import { type ComponentType, useState } from "react";
import { ask } from "../api/queries";
import { ReferencePicker } from "../kinds/references";
import { Popover } from "../ui/basics";
import { Choices } from "../ui/Choices";
import { Input } from "../ui/inputs";
import { Select } from "../ui/Select";
import type { Asked, Test } from "./tree";

type Props = { field: Asked; takes: string; test: Test; wrong: boolean; onType: (typed: string[]) => void };

/** What a test asks with: typed in boxes, chosen of a list or of the types, yes or no. */
export function ValueControl(props: Props) {
  const Control = CONTROLS[props.field.control] ?? Words;
  return <Control {...props} />;
}

function Words({ field, takes, test, wrong, onType }: Props) {
  const boxes = takes === "two" ? [0, 1] : [0];
  const texts = takes === "many" ? [test.typed.join(", ")] : test.typed;
  const put = (at: number, text: string) => {
    if (takes === "many") onType(text.split(",").map((part) => part.trimStart()));
    else onType(boxes.map((box) => (box === at ? text : (texts[box] ?? ""))));
  };
  return (
    <>
      {boxes.map((at) => (
        <span key={at} className="flex items-center gap-1.5">
          {at > 0 && <span className="text-ink-2">and</span>}
          <Input
            data-value={at === 0 || undefined}
            className={`input !bg-woad-tint ${takes === "many" ? "!w-52" : "!w-32"} ${wrong ? "wrong" : ""}`}
            aria-label={`${field.name}${at > 0 ? ", second value" : ""}`}
            placeholder={takes === "many" ? "one, or more with commas" : field.example || "a value"}
            autoComplete="off"
            value={texts[at] ?? ""}
            onChange={(event) => put(at, event.target.value)}
          />
        </span>
      ))}
    </>
  );
}

function YesNo({ field, test, wrong, onType }: Props) {
  return (
    <Select
      data-value
      className={`input !w-auto !bg-woad-tint ${wrong ? "wrong" : ""}`}
      aria-label={field.name}
      value={test.typed[0] ?? ""}
      onChange={(event) => onType(event.target.value ? [event.target.value] : [])}
    >
      <option value="">choose</option>
      <option value="yes">yes</option>
      <option value="no">no</option>
    </Select>
  );
}

function OfList(props: Props) {
  const lists = useQuery(ask.things("value_list")).data;
  const values = lists?.find((row) => row.thing.key === props.field.list)?.thing.values ?? [];
  return <Choose {...props} choices={values} />;
}

function OfTypes(props: Props) {
  const types = useQuery(ask.things("product_type")).data ?? [];
  return <Choose {...props} choices={types.map(({ thing, path }) => ({ code: thing.key, label: path }))} />;
}

/** One choice, or several by ticking; long lists are searched while typing. */
function Choose(props: Props & { choices: { code: string; label: string }[] }) {
  const { field, takes, test, wrong, choices } = props;
  const [open, setOpen] = useState(false);
  const many = takes === "many";
  const chosen = test.typed;
  const labels = chosen.map((code) => choices.find((choice) => choice.code === code)?.label ?? code);
  function pick(code: string) {
    if (many) props.onType(chosen.includes(code) ? chosen.filter((other) => other !== code) : [...chosen, code]);
    else {
      props.onType([code]);
      setOpen(false);
    }
  }
  return (
    <Popover
      label={field.name}
      open={open}
      onOpen={setOpen}
      trigger={
        <button
          type="button"
          data-value
          aria-label={`${field.name}: ${labels.join(", ") || "choose"}`}
          className={`btn !min-h-[30px] max-w-[260px] border-[#b9c9de] !bg-woad-tint !text-woad ${wrong ? "!border-madder" : ""}`}
        >
          <span className="truncate">{labels.join(", ") || "choose"}</span>
        </button>
      }
    >
      <Choices
        label={field.name}
        choices={choices}
        chosen={chosen}
        onPick={pick}
        note={many ? "Tick as many as hold, then Esc." : undefined}
      />
    </Popover>
  );
}

/** A thing of the shop, or several, searched while typing. */
function OfReferences(props: Props) {
  const { field, takes, test, wrong, onType } = props;
  const many = takes === "many";
  const [noun = "", of = ""] = field.target ?? [];
  const names = useQuery(ask.references(noun, of, "")).data?.choices ?? [];
  const [picked, setPicked] = useState<Record<string, string>>({});
  const nameOf = (item: string) => picked[item] ?? names.find((choice) => String(choice.item) === item)?.name ?? item;
  return (
    <ReferencePicker
      label={field.name}
      word={test.typed.map(nameOf).join(", ") || "choose"}
      wrong={wrong}
      many={many}
      target={{ noun, of }}
      chosen={test.typed.map((item) => names.find((choice) => String(choice.item) === item)?.item ?? item)}
      onPick={({ item, name }) => {
        const code = String(item);
        setPicked((old) => ({ ...old, [code]: name }));
        if (!many) onType([code]);
        else onType(test.typed.includes(code) ? test.typed.filter((other) => other !== code) : [...test.typed, code]);
      }}
    />
  );
}

/** A control for each way to ask for a value: one more is one line here. */
const CONTROLS: Record<string, ComponentType<Props>> = {
  words: Words,
  yes_no: YesNo,
  list: OfList,
  type: OfTypes,
  reference: OfReferences,
};

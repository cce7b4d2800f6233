import type { Schemas } from "../../../api/client";
import { Button, Popover } from "../../../ui/basics";
import { SortableRow } from "../../../ui/Sortable";
import { TextBox } from "../../../ui/TextBox";
import { Tick } from "../../../ui/Ticked";
import { Remarks } from "../../../values/Remarks";
import { type ValueChanges, ValueDetails } from "../../../values/ValueDetails";
import { heldCount, heldWords } from "./heldWords";

export type Value = Schemas["ListValue"];
export const TRACKS = "grid-cols-[52px_minmax(0,1.1fr)_minmax(0,1.2fr)_minmax(0,0.9fr)_74px_64px]";

type Props = {
  value: Value;
  use: Schemas["ValueUseOut"] | undefined;
  wrong: boolean;
  remarks: readonly Schemas["RemarkOut"][];
  movable: boolean;
  ticked: boolean;
  onTick: (range: boolean) => void;
  onChange: (changes: ValueChanges) => void;
  onStep: (by: -1 | 1) => void;
  onMerge: () => void;
  onTakeOut: () => void;
};

/** One value: how it looks, its label and other writings, edited where they stand, how much it is used, and what can be done. */
export function ValueRow(props: Props) {
  const { value, use } = props;
  return (
    <SortableRow
      id={value.code}
      name={value.label}
      className="border-b border-line px-[6px] py-[3px]"
      disabled={!props.movable}
      onStep={props.onStep}
    >
      <div className={`grid flex-1 ${TRACKS} items-center gap-2 ${value.retired ? "opacity-80" : ""}`}>
        <span className="flex items-center gap-1">
          <Tick name={value.label} ticked={props.ticked} onTick={props.onTick} />
          <ValueDetails value={value} onChange={props.onChange} />
        </span>
        <TextBox
          aria-label={`Label of ${value.label}`}
          className={value.retired ? "line-through" : ""}
          wrong={props.wrong}
          value={value.label}
          onCommit={(label) => props.onChange({ label })}
        />
        <span className="min-w-0">
          <span className="key block truncate" title={value.code}>
            {value.code}
          </span>
          <Remarks remarks={props.remarks} />
        </span>
        <TextBox
          aria-label={`Synonyms of ${value.label}`}
          placeholder="words, with commas"
          value={(value.synonyms ?? []).join(", ")}
          onCommit={(text) =>
            props.onChange({
              synonyms: text
                .split(",")
                .map((synonym) => synonym.trim())
                .filter(Boolean),
            })
          }
        />
        <span className="text-right text-ink-2">{use && <UseCell use={use} />}</span>
        <Popover
          label={`What to do with ${value.label}`}
          width={240}
          trigger={
            <Button right="edit" look="quiet">
              More
            </Button>
          }
        >
          <div className="grid gap-1">
            <Button look="quiet" onClick={() => props.onChange({ retired: !value.retired })}>
              {value.retired ? "Bring back" : "Retire: stays, no longer offered"}
            </Button>
            <Button look="quiet" onClick={props.onMerge}>
              Merge into another…
            </Button>
            <Button look="quiet" onClick={props.onTakeOut}>
              Take out of the list
            </Button>
          </div>
        </Popover>
      </div>
    </SortableRow>
  );
}

/** Whether nothing holds a value or asks for it. */
export function isUnused(use: Schemas["ValueUseOut"] | undefined): boolean {
  return use !== undefined && use.held.length === 0 && use.definitions.length === 0;
}

function UseCell({ use }: { use: Schemas["ValueUseOut"] }) {
  if (isUnused(use)) return <span className="text-ink-3">unused</span>;
  const others = use.definitions.length > 0 && (
    <span title={use.definitions.join(", ")}> +{use.definitions.length}</span>
  );
  return (
    <>
      <span title={heldWords(use.held)}>{heldCount(use.held)}</span>
      {others}
    </>
  );
}

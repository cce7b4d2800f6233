import { Button, Segments } from "../ui/basics";
import type { EditorProps, KindUi } from "./base";

function YesNo({ id, at, onFill }: EditorProps) {
  const value = at.value.value as boolean | null;
  return (
    <span id={id} className="flex items-center gap-2">
      <Segments
        label={at.field.name}
        value={value === true ? "yes" : value === false ? "no" : null}
        choices={[
          ["yes", "Yes"],
          ["no", "No"],
        ]}
        onChoose={(answer) => onFill(answer === "yes")}
      />
      {value !== null && value !== undefined && (
        <Button look="quiet" onClick={() => onFill(null)}>
          Empty it
        </Button>
      )}
    </span>
  );
}

export const yesNo: KindUi = { code: "yes_no", Editor: YesNo, typed: (value) => (value ? "yes" : "no") };

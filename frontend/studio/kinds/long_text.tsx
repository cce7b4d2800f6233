import { LineEditor } from "../ui/grid/LineEditor";
import { TextBox } from "../ui/TextBox";
import { asText, type CellProps, type EditorProps, type KindUi } from "./base";

function LongText({ id, at, wrong, onFill, onTyping }: EditorProps) {
  const most = at.field.limits.max_length;
  return (
    <>
      <TextBox
        id={id}
        rows={2}
        wrong={wrong}
        value={asText(at.value.typed)}
        placeholder={at.example}
        onCommit={onFill}
        onTyping={onTyping}
      />
      {most !== undefined && <span className="hint">at most {String(most)} characters</span>}
    </>
  );
}

function LinesCell({ editing }: CellProps) {
  return <LineEditor editing={editing} lines />;
}

export const longText: KindUi = {
  code: "long_text",
  Editor: LongText,
  Cell: LinesCell,
  tall: () => true,
  typed: (value) => asText(value),
};

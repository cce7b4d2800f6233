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

/** As many of its lines as its row has room for. */
function LinesShown({ at }: Pick<CellProps, "at">) {
  return <span className="cell-lines">{asText(at.value.typed)}</span>;
}

export const longText: KindUi = {
  code: "long_text",
  Editor: LongText,
  Cell: LinesCell,
  Shown: LinesShown,
  tall: () => true,
  typed: (value) => asText(value),
};

import { kindUi } from "../kinds";
import type { EditorProps } from "../kinds/base";

/** The control for a field's kind. */
export function ValueInput(props: EditorProps) {
  const { Editor, look } = kindUi(props.at.field.kind);
  return <Editor {...props} look={look} />;
}

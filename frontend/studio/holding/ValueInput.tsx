import { kindUi } from "../kinds";
import type { EditorProps } from "../kinds/base";
import { Shown } from "../kinds/cells";
import { useMay } from "../ui/rights";

/** The control for a field's kind; who may not edit sees the value. */
export function ValueInput(props: EditorProps) {
  const { Editor, look } = kindUi(props.at.field.kind);
  if (!useMay("edit"))
    return (
      <div id={props.id} className="min-h-[26px] break-words pt-[5px]" data-value>
        <Shown at={props.at} instead="–" />
      </div>
    );
  return <Editor {...props} look={look} />;
}

import { counted } from "../basics";
import { type Drafts, WAITS } from "./useStrokes";

type Wrong = { row: string; column: string; wrong: string };

/** What was typed and refused, with a way to its cell; else what is wrong with what stands in the cell at hand, or the last one typed in. */
export function Refused(props: {
  drafts: Drafts;
  nameOf: (row: string, column: string) => string;
  onGo: (row: string, column: string) => void;
  standing: Wrong | null;
}) {
  const refused = [...props.drafts].flatMap(([cell, { wrong }]) => {
    const at = cell.lastIndexOf(" ");
    return wrong ? [{ row: cell.slice(0, at), column: cell.slice(at + 1), wrong }] : [];
  });
  const shown = refused.findLast(({ wrong }) => wrong !== WAITS) ?? refused.at(-1) ?? props.standing;
  if (!shown) return null;
  return (
    <p className="grid-refused wrongly" role="alert">
      <button type="button" className="link" onClick={() => props.onGo(shown.row, shown.column)}>
        {props.nameOf(shown.row, shown.column)}
      </button>
      : {shown.wrong}
      {refused.length > 1 && ` · ${counted(refused.length, "cell")} in all`}
    </p>
  );
}

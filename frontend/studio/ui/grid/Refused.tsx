import { counted } from "../basics";
import type { Drafts } from "./useStrokes";

/** What was typed and refused, with a way to its cell; or what is wrong with what stands in the cell at hand. */
export function Refused(props: {
  drafts: Drafts;
  nameOf: (row: string, column: string) => string;
  onGo: (row: string, column: string) => void;
  here: string | null;
}) {
  const refused = [...props.drafts].filter(([, { wrong }]) => wrong);
  const last = refused.at(-1);
  if (!last && !props.here) return null;
  const [cell = "", draft] = last ?? [];
  const at = cell.lastIndexOf(" ");
  const [row, column] = [cell.slice(0, at), cell.slice(at + 1)];
  return (
    <p className="grid-refused wrongly" role="alert">
      {draft ? (
        <>
          <button type="button" className="link" onClick={() => props.onGo(row, column)}>
            {props.nameOf(row, column)}
          </button>
          : {draft.wrong}
          {refused.length > 1 && ` · ${counted(refused.length, "cell")} in all`}
        </>
      ) : (
        props.here
      )}
    </p>
  );
}

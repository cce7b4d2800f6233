import { Link } from "react-router";
import type { Schemas } from "../api/client";
import { placeOf } from "../api/nouns";
import { useMendCell } from "../considering/usePut";
import { useMay } from "../ui/rights";

/** The way to mend what fails: pressed where it can be done at once, else where it is opened. */
export function MendBy({ mend, of }: { mend: NonNullable<Schemas["StepOut"]["mend"]>; of: string }) {
  const mendCell = useMendCell();
  const may = useMay("edit");
  const { says } = mend;
  if (says && may)
    return (
      <button type="button" className="link" onClick={() => void mendCell(mend.key, says, `${mend.text}: ${of}`)}>
        {mend.text}
      </button>
    );
  return (
    <Link className="link" to={placeOf(mend.noun, mend.key)}>
      {mend.text}
    </Link>
  );
}

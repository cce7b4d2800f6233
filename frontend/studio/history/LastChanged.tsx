import { useQuery } from "@tanstack/react-query";
import { ask } from "../api/queries";
import { ago } from "../state/saving";

/** When a thing was last changed, and by whom; nothing where that is not known. */
export function LastChanged({ noun, thing }: { noun: string; thing: string }) {
  const last = useQuery(ask.lastChange(noun, thing)).data?.changes[0];
  if (!last) return null;
  return (
    <p className="hint mt-3">
      Last changed <time dateTime={last.at}>{ago(Date.now() - new Date(last.at).getTime())}</time> by {last.person}
    </p>
  );
}

import { useQuery } from "@tanstack/react-query";
import { ask } from "../api/queries";

/** Every product type as a choice of a select, by its key or as the scope it is. */
export function TypeOptions({ scope }: { scope?: boolean }) {
  const types = useQuery(ask.things("product_type")).data ?? [];
  return types.map(({ thing, path }) => (
    <option key={thing.key} value={scope ? `type:${thing.key}` : thing.key}>
      {path}
    </option>
  ));
}

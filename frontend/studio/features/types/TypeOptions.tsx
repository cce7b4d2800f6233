import { useQuery } from "@tanstack/react-query";
import { ask } from "../../api/queries";

/** Every product type as a choice of a select. */
export function TypeOptions() {
  const types = useQuery(ask.things("product_type")).data ?? [];
  return types.map(({ thing, path }) => (
    <option key={thing.key} value={thing.key}>
      {path}
    </option>
  ));
}

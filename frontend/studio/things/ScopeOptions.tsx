import { useQuery } from "@tanstack/react-query";
import { PRODUCT } from "../api/nouns";
import { ask } from "../api/queries";
import { TypeOptions } from "./TypeOptions";

/** Whom something can be said for, as choices of a select: types and collections, or record types, of whose pages it is. */
export function ScopeOptions({ subjects }: { subjects: readonly string[] }) {
  const collections = useQuery(ask.things("collection")).data ?? [];
  const records = useQuery(ask.things("record_type")).data ?? [];
  const ofProducts = subjects.includes(PRODUCT);
  return (
    <>
      {ofProducts && (
        <optgroup label="Product types">
          <TypeOptions scope />
        </optgroup>
      )}
      {ofProducts && collections.length > 0 && (
        <optgroup label="Collections">
          {collections.map(({ thing }) => (
            <option key={thing.key} value={`collection:${thing.key}`}>
              {thing.name}
            </option>
          ))}
        </optgroup>
      )}
      {subjects.some((subject) => subject !== PRODUCT) && records.length > 0 && (
        <optgroup label="Record types">
          {records.map(({ thing }) => (
            <option key={thing.key} value={`record_type:${thing.key}`}>
              {thing.name}
            </option>
          ))}
        </optgroup>
      )}
    </>
  );
}

import { useQuery } from "@tanstack/react-query";
import { ask } from "../api/queries";

/** Products worth proving a field with: one that has a value, one that lacks it, and the one with the longest. */
export function Examples({ field, onPick }: { field: string; onPick: (product: number) => void }) {
  const found = useQuery(ask.examples(field)).data?.examples ?? [];
  if (found.length === 0) return null;
  return (
    <p className="flex w-full flex-wrap items-center gap-x-2 text-[12px] text-ink-2">
      Prove with
      {found.map((example) => (
        <button
          key={example.how}
          type="button"
          className="link max-w-[190px] truncate"
          title={example.title}
          onClick={() => onPick(example.product)}
        >
          {example.words}
        </button>
      ))}
    </p>
  );
}

import { useEffect, useState } from "react";
import { useNews } from "../state/news";
import { ago } from "../state/saving";

/** Who else has the open thing open, and who wrote it while one looks at it. */
export function BesideYou() {
  const { people, by, at } = useNews();
  return (
    <p role="status" className="hint ml-auto flex min-w-0 items-center gap-3 self-center truncate">
      {by && <Wrote by={by} at={at} />}
      {people.length > 0 && (
        <span className="truncate rounded-full bg-weld-tint px-2 text-ink" title={people.join(", ")}>
          {named(people)} here too
        </span>
      )}
    </p>
  );
}

const TOLD_FOR = 120_000;

/** Who wrote last what is open, for a while; what it was stands in its history. */
function Wrote({ by, at }: { by: string; at: number }) {
  const [now, tick] = useState(Date.now);
  // biome-ignore lint/correctness/useExhaustiveDependencies: it counts anew from each time it was written
  useEffect(() => {
    tick(Date.now());
    const timer = setInterval(() => tick(Date.now()), 5000);
    return () => clearInterval(timer);
  }, [at]);
  if (now - at > TOLD_FOR) return null;
  return (
    <span className="truncate">
      {by} changed this {ago(now - at)}
    </span>
  );
}

const NAMED = 2;

/** `Mara is`, `Mara and Ben are`, `Mara, Ben and 3 more are`. */
export function named(people: readonly string[]): string {
  if (people.length <= NAMED) return `${people.join(" and ")} ${people.length === 1 ? "is" : "are"}`;
  return `${people.slice(0, NAMED).join(", ")} and ${people.length - NAMED} more are`;
}

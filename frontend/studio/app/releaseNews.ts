import { useEffect, useRef } from "react";
import { toast } from "sonner";
import type { Schemas } from "../api/client";
import { isOpen } from "../api/queries";
import { useDocumentWords } from "../considering/Consequences";
import { useSaving } from "../state/saving";
import { counted } from "../ui/basics";

type Job = Schemas["JobOut"];

/** How far a release is, for the top bar. */
export function jobWords(job: Job | null): string {
  if (!job || job.state === "waiting") return "release waits";
  return job.total === 0 ? "releasing" : `releasing, ${Math.floor((100 * job.done) / job.total)} %`;
}

/** What became of a release, in words: a title and a line. */
export function endWords(job: Job, words: (counts: Record<string, number>) => string): [string, string] {
  if (job.state === "done") {
    const { number, counts, held_back } = job.result;
    const held = Array.isArray(held_back) ? held_back.length : 0;
    const changed = `${words((counts ?? {}) as Record<string, number>)} changed`;
    return [
      `Release ${number} is live`,
      held ? `${changed}, ${counted(held, "product")} held back until mended` : changed,
    ];
  }
  if (job.state === "stopped") return ["The release was stopped", "Nothing changed in the shop"];
  return [String(job.result.message ?? "The release failed"), String(job.result.help ?? "")];
}

/** Says what became of a release that was seen under way, wherever one is by then. */
export function useReleaseNews(job: Job | null | undefined): void {
  const { freshen } = useSaving();
  const words = useDocumentWords();
  const say = useRef(words);
  say.current = words;
  const seen = useRef<number | null>(null);
  useEffect(() => {
    if (!job) return;
    if (isOpen(job)) {
      seen.current = job.id;
      return;
    }
    if (seen.current !== job.id) return;
    seen.current = null;
    const [title, description] = endWords(job, say.current);
    if (job.state === "failed") toast.error(title, { description });
    else toast(title, { description });
    void freshen("job");
  }, [job, freshen]);
}

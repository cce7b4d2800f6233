import { useEffect, useRef } from "react";
import { toast } from "sonner";
import type { Schemas } from "../api/client";
import { isOpen } from "../api/queries";
import { counted } from "../ui/basics";
import { useSaving } from "./saving";

type Job = Schemas["JobOut"];

/** How far a release is, for the top bar. */
export function jobWords(job: Job | null): string {
  if (!job || job.state === "waiting") return "release waits";
  return job.total === 0 ? "releasing" : `releasing, ${Math.floor((100 * job.done) / job.total)} %`;
}

/** What became of a release, in words: a title and a line. */
export function endWords(job: Job): [string, string] {
  if (job.state === "done") {
    const { number, pages, cards } = job.result;
    return [
      `Release ${number} is live`,
      `${counted(Number(pages), "page")}, ${counted(Number(cards), "card")} changed`,
    ];
  }
  if (job.state === "stopped") return ["The release was stopped", "Nothing changed in the shop"];
  return [String(job.result.message ?? "The release failed"), String(job.result.help ?? "")];
}

/** Says what became of a release that was seen under way, wherever one is by then. */
export function useReleaseNews(job: Job | null | undefined): void {
  const { freshen } = useSaving();
  const seen = useRef<number | null>(null);
  useEffect(() => {
    if (!job) return;
    if (isOpen(job)) {
      seen.current = job.id;
      return;
    }
    if (seen.current !== job.id) return;
    seen.current = null;
    const [title, description] = endWords(job);
    if (job.state === "failed") toast.error(title, { description });
    else toast(title, { description });
    void freshen();
  }, [job, freshen]);
}

import { useQuery } from "@tanstack/react-query";
import { client, data, type Schemas } from "../../api/client";
import { ask, isOpen } from "../../api/queries";
import { ago, useSaving } from "../../state/saving";
import { Button, counted, Empty } from "../../ui/basics";
import { moveFocus } from "../../ui/keys";
import { number } from "../../ui/locale";
import { Opening } from "../../ui/Opening";
import { PaneHead } from "../../ui/Split";

type Job = Schemas["JobOut"];
const STATES: Record<Job["state"], [string, string]> = {
  waiting: ["waits", "tag weld"],
  running: ["under way", "tag weld"],
  done: ["done", "tag moss"],
  stopped: ["stopped", "tag"],
  failed: ["failed", "tag madder"],
};

/** All long work: what it is, how far, who asked for it, and what became of it. */
export default function JobsView() {
  const jobs = useQuery(ask.jobs()).data?.jobs;
  if (!jobs) return <Opening />;
  const open = jobs.filter(isOpen).length;
  return (
    <section className="flex min-h-0 flex-1 flex-col" aria-label="Jobs">
      <PaneHead title="Jobs" note={open ? `${counted(open, "job")} not done yet` : "all long work, the newest first"} />
      <div className="scroll min-h-0 flex-1">
        {jobs.length === 0 && (
          <Empty title="No long work yet">
            Releases stand here, and changes that move or judge more than 2,000 products at once.
          </Empty>
        )}
        <ul onKeyDown={moveFocus}>
          {jobs.map((job) => (
            <JobRow key={job.id} job={job} />
          ))}
        </ul>
      </div>
    </section>
  );
}

function JobRow({ job }: { job: Job }) {
  const { save } = useSaving();
  const share = job.total ? Math.min(100, Math.floor((100 * job.done) / job.total)) : 0;
  const [word, look] = STATES[job.state];
  const many = job.counted[1] ?? "steps";
  return (
    <li
      // biome-ignore lint/a11y/noNoninteractiveTabindex: rows are walked with the arrows
      tabIndex={0}
      data-item
      className="grid grid-cols-[190px_110px_minmax(0,1fr)_auto] items-center gap-3 border-b border-line px-[14px] py-2"
    >
      <span className="min-w-0">
        <span className="block truncate font-semibold">{job.name}</span>
        <span className="block truncate text-[12px] text-ink-3">
          {job.person}, <time dateTime={job.asked}>{ago(Date.now() - Date.parse(job.asked))}</time>
        </span>
      </span>
      <span>
        <span className={look}>{word}</span>
      </span>
      {isOpen(job) ? (
        <span>
          <span className="block" role="status">
            {job.total
              ? `${number(job.done)} of ${counted(job.total, job.counted[0] ?? "step", many)}, ${share} %`
              : "about to begin"}
          </span>
          <span
            className="mt-1 block h-1.5 overflow-hidden rounded bg-[#e9dcb8]"
            role="progressbar"
            aria-label={`${job.name}, asked for by ${job.person}`}
            aria-valuenow={share}
            aria-valuemin={0}
            aria-valuemax={100}
          >
            <span className="block h-full bg-weld" style={{ width: `${share}%` }} />
          </span>
        </span>
      ) : (
        <span className={`min-w-0 ${job.state === "failed" ? "wrongly" : "text-ink-2"}`}>{job.outcome}</span>
      )}
      {isOpen(job) && (
        <Button
          disabled={!job.may_stop}
          title={job.may_stop ? undefined : "It is stopping already, or you may not stop it"}
          aria-label={`Stop it: ${job.name}`}
          onClick={() =>
            save(() => data(client.POST("/api/jobs/{number}/stop", { params: { path: { number: job.id } } })), {
              noun: "job",
            })
          }
        >
          Stop it
        </Button>
      )}
    </li>
  );
}

import { useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { client, data, type Schemas } from "../../api/client";
import { ask } from "../../api/queries";
import { useDocumentWords } from "../../considering/Consequences";
import { useSaving } from "../../state/saving";
import { Button, counted, Dialog } from "../../ui/basics";
import { Input } from "../../ui/inputs";

/** A release under way: how far it is, by whom, and a way to stop it. One may leave; it goes on. */
export function ReleaseProgress({ job, may }: { job: Schemas["JobOut"]; may: boolean }) {
  const { save } = useSaving();
  const share = job.total ? Math.floor((100 * job.done) / job.total) : 0;
  return (
    <section className="flex-none border-y border-line bg-weld-tint px-4 py-2" aria-label="Release under way">
      <div className="flex items-center gap-3">
        <span className="min-w-0 flex-1 truncate" role="status">
          {job.state === "waiting"
            ? `Asked for by ${job.person}, waits for the worker`
            : `${share} % done, by ${job.person}`}
        </span>
        <Button
          disabled={!may}
          onClick={() =>
            save(() => data(client.POST("/api/jobs/{number}/stop", { params: { path: { number: job.id } } })))
          }
        >
          Stop it
        </Button>
      </div>
      <div
        className="mt-1.5 h-1.5 overflow-hidden rounded bg-[#e9dcb8]"
        role="progressbar"
        aria-label="How far the release is"
        aria-valuenow={share}
        aria-valuemin={0}
        aria-valuemax={100}
      >
        <div className="h-full bg-weld" style={{ width: `${share}%` }} />
      </div>
    </section>
  );
}

/** Asks once more, with what is wrong, and takes a note. The worker makes the release; the dialog does not wait for it. */
export function ReleaseDialog({
  pending,
  wrong,
  onClose,
}: {
  pending: Schemas["PendingOut"];
  wrong: number;
  onClose: () => void;
}) {
  const { save } = useSaving();
  const queries = useQueryClient();
  const words = useDocumentWords();
  const [note, setNote] = useState("");
  const [busy, setBusy] = useState(false);
  async function submit(event: React.FormEvent) {
    event.preventDefault();
    setBusy(true);
    const done = await save(async () => {
      const job = await data(client.POST("/api/releases", { body: { note } }));
      queries.setQueryData(ask.counts().queryKey, (old) => old && { ...old, job });
      return job;
    });
    setBusy(false);
    if (done) onClose();
  }
  return (
    <Dialog
      open
      onClose={onClose}
      title={`Release ${counted(pending.count, "change")}`}
      note={`${pending.exact ? "" : "At most "}${words(pending.surfaces)} of the shop change at once. You can go back at any time.`}
    >
      <form onSubmit={submit}>
        {wrong > 0 && (
          <p className="mb-2 text-madder">
            {counted(wrong, "check")} found something wrong. It can be released all the same.
          </p>
        )}
        <label className="block">
          What it is about <span className="text-ink-3">(optional)</span>
          <Input
            className="input mt-1"
            value={note}
            maxLength={200}
            onChange={(event) => setNote(event.target.value)}
          />
        </label>
        <div className="mt-4 flex justify-end gap-2">
          <Button onClick={onClose}>Leave it</Button>
          <Button look="primary" type="submit" busy={busy}>
            {busy ? "Releasing…" : "Release"}
          </Button>
        </div>
      </form>
    </Dialog>
  );
}

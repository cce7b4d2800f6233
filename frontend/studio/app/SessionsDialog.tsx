import { useQuery, useQueryClient } from "@tanstack/react-query";
import { getParser } from "bowser";
import { useState } from "react";
import { client, data, type Refused, type Schemas } from "../api/client";
import { ask } from "../api/queries";
import { Button, Dialog } from "../ui/basics";
import { dayAndTime } from "../ui/locale";

type OwnSession = Schemas["OwnSessionOut"];

/** Which browser on which system, as people name them. */
export function browserWords(agent: string): string {
  if (!agent.trim()) return "Unknown browser";
  const { browser, os } = getParser(agent).getResult();
  const words = [browser.name, os.name && `on ${os.name}`].filter(Boolean).join(" ");
  return words || agent.slice(0, 60);
}

/** Where one is signed in, each of which can be ended. */
export default function SessionsDialog({ onClose }: { onClose: () => void }) {
  const queries = useQueryClient();
  const { data: own, error, refetch } = useQuery({ ...ask.sessions(), staleTime: 0 });
  const [wrong, setWrong] = useState<string | null>(null);
  async function end(sessions: OwnSession[]) {
    setWrong(null);
    try {
      for (const { id } of sessions)
        await data(client.DELETE("/api/session/all/{number}", { params: { path: { number: id } } }));
    } catch (refused) {
      const { message, problem } = refused as Refused;
      setWrong(`${message}. ${problem.help}`);
    }
    await queries.invalidateQueries({ queryKey: ask.sessions().queryKey });
  }
  const others = own?.sessions.filter((session) => !session.current) ?? [];
  return (
    <Dialog
      open
      onClose={onClose}
      title="Your sessions"
      note="Where you are signed in. A session that ends can't be used again."
    >
      {error && (
        <p className="wrongly mb-2" role="alert">
          Your sessions could not be read: {error.message}.{" "}
          <button type="button" className="link" onClick={() => refetch()}>
            Ask again
          </button>
        </p>
      )}
      <ul className="max-h-[50vh] overflow-y-auto border-y border-line">
        {own?.sessions.map((session) => (
          <li key={session.id} className="flex items-center gap-3 border-b border-line py-2 last:border-b-0">
            <span className="min-w-0 flex-1">
              <b className="block truncate font-semibold" title={session.browser}>
                {browserWords(session.browser)}
              </b>
              <span className="hint">
                since {dayAndTime(session.begun)}, last used {dayAndTime(session.seen)}
              </span>
            </span>
            {session.current ? (
              <span className="hint">this one</span>
            ) : (
              <Button aria-label={`End the session of ${dayAndTime(session.begun)}`} onClick={() => end([session])}>
                End it
              </Button>
            )}
          </li>
        ))}
      </ul>
      {wrong && (
        <p className="wrongly mt-2" role="alert">
          {wrong}
        </p>
      )}
      <div className="mt-3 flex justify-end gap-2">
        {others.length > 1 && <Button onClick={() => end(others)}>End all others</Button>}
        <Button look="primary" onClick={onClose}>
          Done
        </Button>
      </div>
    </Dialog>
  );
}

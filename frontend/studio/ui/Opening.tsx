import { type Query, useQueryClient } from "@tanstack/react-query";
import { useEffect, useState, useSyncExternalStore } from "react";
import { Button } from "./basics";

const SOON = 400;

/** In place of what is not there yet: after a moment that it is being opened, or what takes so long; where it can't be, why, with a way to ask again. */
export function Opening({ words = "Opening…" }: { words?: string }) {
  const cache = useQueryClient().getQueryCache();
  const failed = useSyncExternalStore(
    (changed) => cache.subscribe(changed),
    () => cache.findAll({ type: "active" }).find(isFailed) ?? null,
  );
  const [late, setLate] = useState(false);
  useEffect(() => {
    const timer = setTimeout(() => setLate(true), SOON);
    return () => clearTimeout(timer);
  }, []);
  if (failed)
    return (
      <div className="p-6">
        <p className="wrongly mb-3" role="alert">
          It can't be opened: {(failed.state.error as Error).message}
        </p>
        <Button onClick={() => void failed.fetch()}>Try again</Button>
      </div>
    );
  return (
    <p className="hint p-6" role="status">
      {late ? words : ""}
    </p>
  );
}

function isFailed({ state }: Query): boolean {
  return state.status === "error" && state.data === undefined && state.fetchStatus === "idle";
}

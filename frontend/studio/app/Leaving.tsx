import { useEffect } from "react";
import { useBlocker } from "react-router";
import { useAnyUnwritten } from "../state/unwritten";
import { Button, Dialog } from "../ui/basics";

/** Asks before a view is left in which something is tried and not written. */
export function Leaving() {
  const unwritten = useAnyUnwritten();
  const blocker = useBlocker(
    ({ currentLocation, nextLocation }) => unwritten !== null && currentLocation.pathname !== nextLocation.pathname,
  );
  useEffect(() => {
    if (!unwritten) return;
    const warn = (event: BeforeUnloadEvent) => event.preventDefault();
    window.addEventListener("beforeunload", warn);
    return () => window.removeEventListener("beforeunload", warn);
  }, [unwritten]);
  if (blocker.state !== "blocked" || !unwritten) return null;
  const { title, make, drop } = unwritten.current;
  // What is refused is mended here.
  const makeAndLeave = async () => ((await make()) ? blocker.proceed() : blocker.reset());
  const dropAndLeave = () => {
    drop();
    blocker.proceed();
  };
  return (
    <Dialog open onClose={() => blocker.reset()} title={title} note="Nothing of it is in the shop or in a release yet.">
      <div className="flex flex-wrap justify-end gap-2">
        <Button onClick={() => blocker.reset()}>Stay here</Button>
        <Button look="danger" onClick={dropAndLeave}>
          Drop and leave
        </Button>
        <Button look="primary" onClick={() => void makeAndLeave()}>
          Make it so and leave
        </Button>
      </div>
    </Dialog>
  );
}

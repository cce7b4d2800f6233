import { type ReactNode, useEffect, useState } from "react";
import type { Refused } from "../api/client";
import { useAddress } from "../ui/address";
import { Button, Popover } from "../ui/basics";
import { useKeys } from "../ui/keys";

/** A button (and N) that makes a thing from its name; what else can be chosen stands below the name. */
export function NewThing(props: {
  what: string;
  onMake: (name: string) => Promise<void>;
  children?: ReactNode;
  note?: (name: string) => string;
}) {
  const [open, setOpen] = useState(false);
  const [name, setName] = useState("");
  const [wrong, setWrong] = useState<string | null>(null);
  const [asked, setAsked] = useAddress("new");
  useKeys({ n: () => setOpen(true) });
  useEffect(() => {
    if (!asked) return;
    setOpen(true);
    setAsked(null);
  }, [asked, setAsked]);
  async function submit(event: React.FormEvent) {
    event.preventDefault();
    try {
      await props.onMake(name);
      setOpen(false);
      setName("");
      setWrong(null);
    } catch (error) {
      const { message, problem } = error as Refused;
      setWrong(problem ? `${message}. ${problem.help}` : message);
    }
  }
  return (
    <Popover
      label={`New ${props.what}`}
      open={open}
      onOpen={setOpen}
      trigger={
        <Button look="primary" title="N">
          New {props.what}
        </Button>
      }
    >
      <form onSubmit={submit}>
        <label className="block font-semibold">
          Name of the {props.what}
          <input className="input mt-1 font-normal" value={name} onChange={(event) => setName(event.target.value)} />
        </label>
        {props.note && <p className="hint mt-1">{props.note(name)}</p>}
        {props.children}
        {wrong && (
          <p className="wrongly mt-2" role="alert">
            {wrong}
          </p>
        )}
        <div className="mt-3 flex justify-end gap-2">
          <Button onClick={() => setOpen(false)}>Leave it</Button>
          <Button look="primary" type="submit">
            Make it
          </Button>
        </div>
      </form>
    </Popover>
  );
}

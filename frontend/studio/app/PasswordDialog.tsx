import { useState } from "react";
import { client, data, type Refused } from "../api/client";
import { Button, Dialog } from "../ui/basics";

/** The present password and a new one. */
export default function PasswordDialog({ onClose }: { onClose: () => void }) {
  const [old, setOld] = useState("");
  const [fresh, setFresh] = useState("");
  const [wrong, setWrong] = useState<string | null>(null);
  async function submit(event: React.FormEvent) {
    event.preventDefault();
    try {
      await data(client.POST("/api/session/password", { body: { old, new: fresh } }));
      onClose();
    } catch (error) {
      const { message, problem } = error as Refused;
      setWrong(`${message}. ${problem.help}`);
    }
  }
  return (
    <Dialog open onClose={onClose} title="Change password" note="Your sessions on other machines end.">
      <form onSubmit={submit}>
        <PasswordBox label="Present password" fills="current-password" value={old} onPut={setOld} />
        <PasswordBox label="New password, at least 10 characters" fills="new-password" value={fresh} onPut={setFresh} />
        {wrong && (
          <p className="wrongly mb-2" role="alert">
            {wrong}
          </p>
        )}
        <div className="flex justify-end gap-2">
          <Button onClick={onClose}>Leave it</Button>
          <Button look="primary" type="submit">
            Change it
          </Button>
        </div>
      </form>
    </Dialog>
  );
}

function PasswordBox(props: { label: string; fills: string; value: string; onPut: (text: string) => void }) {
  return (
    <label className="mb-3 block">
      <span className="text-ink-2">{props.label}</span>
      <input
        className="input mt-1"
        type="password"
        autoComplete={props.fills}
        value={props.value}
        onChange={(event) => props.onPut(event.target.value)}
      />
    </label>
  );
}

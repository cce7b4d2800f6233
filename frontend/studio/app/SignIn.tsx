import { useState } from "react";
import { client, data, type Refused, type Schemas, session } from "../api/client";
import { Button } from "../ui/basics";
import { Mark } from "./Mark";

/** The sign-in form, as a page or over the page when a session has ended. */
export function SignIn({ again, onDone }: { again?: boolean; onDone: (signedIn: Schemas["SessionOut"]) => void }) {
  const [email, setEmail] = useState("");
  const [password, setPassword] = useState("");
  const [wrong, setWrong] = useState<string | null>(null);
  const [busy, setBusy] = useState(false);

  async function submit(event: React.FormEvent) {
    event.preventDefault();
    setBusy(true);
    try {
      session.csrf = (await data(client.GET("/api/session"))).csrf;
      const signedIn = await data(client.POST("/api/session", { body: { email, password } }));
      session.csrf = signedIn.csrf;
      onDone(signedIn);
    } catch (error) {
      setWrong((error as Refused).message);
    } finally {
      setBusy(false);
    }
  }
  return (
    <main className={again ? "" : "woven grid h-full place-items-center"}>
      <form onSubmit={submit} className={again ? "" : "w-[340px] rounded-md border border-line bg-sheet p-6 shadow-sm"}>
        {!again && (
          <h1 className="mb-4 flex items-center gap-2 text-[18px] font-bold">
            <span className="rounded bg-ink p-1">
              <Mark />
            </span>
            Young Fabric
          </h1>
        )}
        {again && <p className="mb-2">Your session has ended. What you typed is kept; sign in and it is saved.</p>}
        <label className="mb-2 block">
          <span className="text-ink-2">E-mail address</span>
          <input
            className="input mt-1"
            type="email"
            name="email"
            autoComplete="username"
            required
            value={email}
            onChange={(event) => setEmail(event.target.value)}
          />
        </label>
        <label className="mb-3 block">
          <span className="text-ink-2">Password</span>
          <input
            className="input mt-1"
            type="password"
            name="password"
            autoComplete="current-password"
            required
            value={password}
            onChange={(event) => setPassword(event.target.value)}
          />
        </label>
        {wrong && (
          <p className="wrongly mb-2" role="alert">
            {wrong}
          </p>
        )}
        <Button look="primary" type="submit" busy={busy}>
          Sign in
        </Button>
      </form>
    </main>
  );
}

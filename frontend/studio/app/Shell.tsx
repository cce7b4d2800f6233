import { useQuery } from "@tanstack/react-query";
import { DropdownMenu } from "radix-ui";
import { type ReactNode, useState } from "react";
import { NavLink, Outlet, useLocation, useNavigate } from "react-router";
import { client, data, type Refused, type Schemas } from "../api/client";
import { ask, isOpen } from "../api/queries";
import { Button, Dialog, Tip } from "../ui/basics";
import { useKeys } from "../ui/keys";
import { number } from "../ui/locale";
import { FindOrDo } from "./FindOrDo";
import { KeysSheet } from "./KeysSheet";
import { Mark } from "./Mark";
import { jobWords, useReleaseNews } from "./releaseNews";
import { useSaving } from "./saving";
import { STAGES } from "./stages";

/** The top bar with the five stages, the views of the stage, and the sheet below. */
export function Shell({ me }: { me: Schemas["SessionOut"] }) {
  const { pathname } = useLocation();
  const go = useNavigate();
  const { undo, redo } = useSaving();
  const counts = useQuery(ask.counts()).data;
  useReleaseNews(counts?.job);
  const [finding, setFinding] = useState(false);
  const [sheet, setSheet] = useState(false);
  const [password, setPassword] = useState(false);
  const stage = STAGES.find((one) => pathname.startsWith(`/${one.code}`)) ?? STAGES[0];
  useKeys({
    "ctrl+k": () => setFinding(true),
    "?": () => setSheet(true),
    "ctrl+z": undo,
    "ctrl+shift+z": redo,
    ...Object.fromEntries(STAGES.map((one, place) => [String(place + 1), () => go(`/${one.code}`)])),
  });
  return (
    <div className="flex h-full min-w-[760px] flex-col">
      <a href="#sheet" className="sr focus:static">
        To the sheet
      </a>
      <header className="flex h-[46px] flex-none items-center gap-1 bg-ink px-[14px] text-white">
        <NavLink to="/define" className="mr-6 flex items-center gap-2 text-[14px] font-bold">
          <Mark /> <span className="max-lg:hidden">Young Fabric</span>
        </NavLink>
        <nav aria-label="Stages" className="flex h-full gap-1">
          {STAGES.map((one, place) => (
            <NavLink
              key={one.code}
              to={`/${one.code}`}
              className={`flex h-full items-center gap-2 border-b-[3px] px-2.5 pt-[3px] ${one === stage ? "border-weld font-semibold" : "border-transparent text-[#c9d0dc] hover:text-white"}`}
            >
              <kbd className="max-lg:hidden">{place + 1}</kbd>
              {one.name}
              {one.code === "fill" && counts !== undefined && counts.gaps > 0 && (
                <span
                  className="rounded-full bg-weld px-1.5 text-[11px] font-bold text-ink"
                  title={`${counts.gaps} products with gaps`}
                >
                  {number(counts.gaps)}
                </span>
              )}
            </NavLink>
          ))}
        </nav>
        <span className="ml-auto flex items-center gap-3">
          <button
            type="button"
            className="flex h-[30px] w-[190px] items-center justify-between rounded-[5px] border border-[#4d5668] px-2.5 text-[#c9d0dc] max-lg:w-[110px]"
            onClick={() => setFinding(true)}
          >
            Find or do… <span className="text-[11.5px] max-lg:hidden">Ctrl K</span>
          </button>
          <NavLink to="/release/changes" className="whitespace-nowrap font-semibold text-[#f0cd75]">
            {counts && isOpen(counts.job) ? jobWords(counts.job) : `${number(counts?.unreleased ?? 0)} unreleased`}
          </NavLink>
          <Person me={me} onPassword={() => setPassword(true)} />
        </span>
      </header>
      <nav
        aria-label={`Views of ${stage.name}`}
        className="flex h-[37px] flex-none items-stretch gap-5 border-b border-line px-[14px]"
      >
        {stage.views.map(([view, name]) => (
          <NavLink
            key={view}
            to={`/${stage.code}/${view}`}
            className={({ isActive }) =>
              `-mb-px flex items-center border-b-2 ${isActive ? "border-woad font-semibold text-woad" : "border-transparent text-ink-2 hover:text-ink"}`
            }
          >
            {name}
          </NavLink>
        ))}
      </nav>
      <main id="sheet" className="flex min-h-0 flex-1 flex-col" tabIndex={-1}>
        <Outlet />
      </main>
      <FindOrDo open={finding} onClose={() => setFinding(false)} onKeys={() => setSheet(true)} />
      <KeysSheet open={sheet} onClose={() => setSheet(false)} />
      {password && <PasswordDialog onClose={() => setPassword(false)} />}
    </div>
  );
}

function Person({ me, onPassword }: { me: Schemas["SessionOut"]; onPassword: () => void }) {
  const initials = (me.name ?? "?")
    .split(" ")
    .map((word) => word[0])
    .join("");
  return (
    <DropdownMenu.Root>
      <Tip text={me.name ?? ""}>
        <DropdownMenu.Trigger
          className="grid h-[26px] w-[26px] place-items-center rounded-full bg-[#3d4a61] text-[11px] font-bold"
          aria-label={`${initials}: ${me.name}`}
        >
          {initials}
        </DropdownMenu.Trigger>
      </Tip>
      <DropdownMenu.Portal>
        <DropdownMenu.Content className="float min-w-[210px] p-1.5" align="end" sideOffset={6} data-floating>
          <p className="px-2 py-1">
            <b>{me.name}</b>
            <span className="hint block">may {me.rights.join(", ")}</span>
          </p>
          <Item onSelect={onPassword}>Change password</Item>
          <Item onSelect={() => window.open("/shop/", "_blank")}>Open the shop</Item>
          <Item
            onSelect={() =>
              data(client.DELETE("/api/session")).then(() => {
                window.location.href = "/studio/";
              })
            }
          >
            Sign out
          </Item>
        </DropdownMenu.Content>
      </DropdownMenu.Portal>
    </DropdownMenu.Root>
  );
}

function Item(props: { onSelect: () => void; children: ReactNode }) {
  return (
    <DropdownMenu.Item
      className="cursor-pointer rounded px-2 py-1.5 outline-none data-[highlighted]:bg-woad-tint"
      onSelect={props.onSelect}
    >
      {props.children}
    </DropdownMenu.Item>
  );
}

function PasswordDialog({ onClose }: { onClose: () => void }) {
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
        <label className="mb-2 block">
          <span className="text-ink-2">Present password</span>
          <input
            className="input mt-1"
            type="password"
            autoComplete="current-password"
            value={old}
            onChange={(e) => setOld(e.target.value)}
          />
        </label>
        <label className="mb-3 block">
          <span className="text-ink-2">New password, at least 10 characters</span>
          <input
            className="input mt-1"
            type="password"
            autoComplete="new-password"
            value={fresh}
            onChange={(e) => setFresh(e.target.value)}
          />
        </label>
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

import { useQuery } from "@tanstack/react-query";
import { lazy, Suspense, useState } from "react";
import { NavLink, Outlet, useLocation, useNavigate } from "react-router";
import type { Schemas } from "../api/client";
import { ask, isOpen } from "../api/queries";
import { useSaving } from "../state/saving";
import { useKeys } from "../ui/keys";
import { number } from "../ui/locale";
import { BesideYou } from "./BesideYou";
import { FindOrDo } from "./FindOrDo";
import { Mark } from "./Mark";
import { Person } from "./Person";
import { jobWords, useReleaseNews } from "./releaseNews";
import { STAGES } from "./stages";

const KeysSheet = lazy(() => import("./KeysSheet").then((room) => ({ default: room.KeysSheet })));

/** The top bar with the five stages, the views of the stage, and the sheet below. */
export function Shell({ me }: { me: Schemas["SessionOut"] }) {
  const { pathname } = useLocation();
  const go = useNavigate();
  const { undo, redo } = useSaving();
  const counts = useQuery(ask.counts()).data;
  useReleaseNews(counts?.job);
  const [finding, setFinding] = useState(false);
  const [sheet, setSheet] = useState(false);
  const stage = STAGES.find((stage) => pathname.startsWith(`/${stage.code}`)) ?? STAGES[0];
  const view = stage.views.find(({ path }) => pathname.startsWith(`/${stage.code}/${path}`));
  useKeys({
    "ctrl+k": () => setFinding(true),
    "?": () => setSheet(true),
    "ctrl+z": undo,
    "ctrl+shift+z": redo,
    ...Object.fromEntries(STAGES.map((stage, index) => [String(index + 1), () => go(`/${stage.code}`)])),
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
          {STAGES.map((other, index) => (
            <NavLink
              key={other.code}
              to={`/${other.code}`}
              className={`flex h-full items-center gap-2 border-b-[3px] px-2.5 pt-[3px] ${other === stage ? "border-weld font-semibold" : "border-transparent text-[#c9d0dc] hover:text-white"}`}
            >
              <kbd className="max-lg:hidden">{index + 1}</kbd>
              {other.name}
              {other.code === "fill" && counts !== undefined && counts.gaps > 0 && (
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
          <Person me={me} />
        </span>
      </header>
      <nav
        aria-label={`Views of ${stage.name}`}
        className="flex h-[37px] flex-none items-stretch gap-5 border-b border-line px-[14px]"
      >
        {stage.views.map(({ path, name }) => (
          <NavLink
            key={path}
            to={`/${stage.code}/${path}`}
            className={({ isActive }) =>
              `-mb-px flex items-center border-b-2 ${isActive ? "border-woad font-semibold text-woad" : "border-transparent text-ink-2 hover:text-ink"}`
            }
          >
            {name}
          </NavLink>
        ))}
        {!me.rights.includes("edit") && (
          <p className="hint self-center" title="Somebody who may run the studio's commands can give you more rights">
            You may look, not change
          </p>
        )}
        <BesideYou />
        {counts?.judging && (
          <p role="status" className="hint self-center">
            Values are being judged: counts may still change
          </p>
        )}
      </nav>
      <main id="sheet" className="flex min-h-0 flex-1 flex-col" tabIndex={-1}>
        <h1 className="sr">{view?.name ?? stage.name}</h1>
        <Outlet />
      </main>
      <FindOrDo open={finding} onClose={() => setFinding(false)} onKeys={() => setSheet(true)} />
      {sheet && (
        <Suspense fallback={null}>
          <KeysSheet open onClose={() => setSheet(false)} />
        </Suspense>
      )}
    </div>
  );
}

import { useInfiniteQuery, useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { client, data, type Schemas } from "../../api/client";
import { ask } from "../../api/queries";
import { useDocumentWords } from "../../considering/Consequences";
import { ChangeRows } from "../../history/ChangeRows";
import { useSaving } from "../../state/saving";
import { useAddress, usePutAddress } from "../../ui/address";
import { Button, counted, Dialog, Empty } from "../../ui/basics";
import { moveFocus } from "../../ui/keys";
import { dayAndTime } from "../../ui/locale";
import { Opening } from "../../ui/Opening";
import { useMay } from "../../ui/rights";
import { PaneHead, Split } from "../../ui/Split";
import { BetweenThings, PastRelease } from "./PastRelease";

type Release = Schemas["ReleaseOut"];
const PAGE = 30;

export default function HistoryView() {
  const pages = useInfiniteQuery({
    queryKey: ["releases"],
    initialPageParam: undefined as number | undefined,
    queryFn: ({ pageParam }) => data(client.GET("/api/releases", { params: { query: { before: pageParam } } })),
    getNextPageParam: (last) => (last.releases.length < PAGE ? undefined : last.releases.at(-1)?.number),
  });
  const found = pages.data?.pages[0];
  const may = useMay("release");
  const words = useDocumentWords();
  const [back, setBack] = useState<Release | null>(null);
  const [number] = useAddress("release");
  const put = usePutAddress();
  if (!found) return <Opening />;
  const known = pages.data?.pages.flatMap((page) => page.releases) ?? [];
  const opened = known.find((release) => String(release.number) === number);
  const releases = (
    <>
      <PaneHead title="Releases" note={found.current ? `number ${found.current} is live` : "nothing is live yet"} />
      <ol className="scroll min-h-0 flex-1 px-[14px]" onKeyDown={moveFocus}>
        {known.map((release) => {
          const live = release.number === found.current;
          return (
            <li key={release.number} className="grid grid-cols-[26px_1fr_auto] gap-x-2 border-l-0 py-0">
              <Thread live={live} />
              <div className="py-2.5">
                <p>
                  <button
                    type="button"
                    data-item
                    className={`link text-left font-bold ${live ? "!text-[#3a612f]" : ""}`}
                    aria-pressed={release.number === opened?.number}
                    onClick={() => put({ release: release === opened ? null : String(release.number), against: null })}
                  >
                    {release.number}. {release.note || "without a note"}
                  </button>{" "}
                  {live && <span className="tag moss">live</span>}
                </p>
                <p className="text-ink-2">
                  {dayAndTime(release.at)}, by {release.person}: {counted(release.things, "change")},{" "}
                  {words(release.counts)}
                </p>
              </div>
              <div className="py-2.5">
                {!live && (
                  <Button
                    disabled={!may}
                    title={may ? undefined : "You may not release"}
                    onClick={() => setBack(release)}
                  >
                    Go back to it
                  </Button>
                )}
              </div>
            </li>
          );
        })}
        {pages.hasNextPage && (
          <li className="py-3">
            <Button disabled={pages.isFetchingNextPage} onClick={() => pages.fetchNextPage()}>
              Show earlier ones
            </Button>
          </li>
        )}
      </ol>
      {found.releases.length === 0 && (
        <Empty title="Nothing was released yet">Shoppers see the shop after the first release.</Empty>
      )}
      {back && <BackDialog release={back} current={found.current} onClose={() => setBack(null)} />}
    </>
  );
  const all = opened ? (
    <PastRelease key={opened.number} release={opened} releases={known} />
  ) : (
    <>
      <PaneHead title="Changes" note="the latest, by everyone" />
      <ChangeRows />
    </>
  );
  return (
    <Split
      id="history"
      parts={[
        { id: "releases", min: 380, start: "52", children: releases },
        {
          id: "changes",
          min: 340,
          start: "48",
          className: "pane",
          folds: opened ? "Release" : "Changes",
          children: all,
        },
      ]}
    />
  );
}

function Thread({ live }: { live: boolean }) {
  return (
    <span aria-hidden="true" className="relative grid justify-items-center">
      <span className="absolute inset-y-0 w-[2px] bg-[#b9c6d8]" />
      <span className={`relative mt-[15px] h-3 w-3 rounded-full ${live ? "bg-moss" : "bg-woad"}`} />
    </span>
  );
}

/** What going back would change, told before it is done. */
function BackDialog({ release, current, onClose }: { release: Release; current: number; onClose: () => void }) {
  const { save } = useSaving();
  const words = useDocumentWords();
  const found = useQuery(ask.between(current, release.number));
  return (
    <Dialog
      open
      onClose={onClose}
      title={`Go back to release ${release.number}`}
      note="The shop shows at once what it showed then, as a new release. Drafts stay as they are."
    >
      <p>
        {release.note}, {dayAndTime(release.at)}
      </p>
      {found.data ? (
        <>
          <p className="my-2 font-semibold">
            {counted(found.data.count, "thing")} and {words(found.data.surfaces)} will be as they were then.
          </p>
          <BetweenThings found={found.data} most="max-h-60 !px-0" />
        </>
      ) : (
        <p className="hint my-2">{found.error?.message ?? "Looking for what will change…"}</p>
      )}
      <div className="mt-4 flex justify-end gap-2">
        <Button onClick={onClose}>Leave it</Button>
        <Button
          look="primary"
          right="release"
          disabled={found.isPending}
          onClick={() =>
            save(() =>
              data(
                client.POST("/api/releases/{number}/back", {
                  params: { path: { number: release.number } },
                  body: { note: "" },
                }),
              ),
            ).then((done) => done && onClose())
          }
        >
          Go back
        </Button>
      </div>
    </Dialog>
  );
}

import { fireEvent, screen, waitFor } from "@testing-library/react";
import { describe, expect, it } from "vitest";
import { Refusal, serve, show, writes } from "../testing";
import SessionsDialog, { browserWords } from "./SessionsDialog";
import { Shell } from "./Shell";

const CHROMIUM =
  "Mozilla/5.0 (X11; Linux x86_64) AppleWebKit/537.36 (KHTML, like Gecko) Chrome/140.0.0.0 Safari/537.36";
const FIREFOX = "Mozilla/5.0 (Windows NT 10.0; Win64; x64; rv:141.0) Gecko/20100101 Firefox/141.0";
const session = (id: number, browser: string, current = false) => ({
  id,
  begun: `2026-11-0${id}T08:00:00Z`,
  seen: `2026-11-0${id}T09:00:00Z`,
  browser,
  current,
});

describe("one's own sessions", () => {
  it("are named by browser and system, whatever was sent", () => {
    expect(browserWords(FIREFOX)).toBe("Firefox on Windows");
    expect(browserWords(CHROMIUM)).toMatch(/^Chrome on Linux$/);
    expect(browserWords("")).toBe("Unknown browser");
    expect(browserWords("own-script/1.0").length).toBeGreaterThan(0);
  });

  it("end but for the one at hand, and are asked for anew", async () => {
    let open = [session(1, CHROMIUM, true), session(2, FIREFOX)];
    const asked = serve({
      "GET /api/session/all": () => ({ sessions: open }),
      "DELETE /api/session/all/2": () => {
        open = open.slice(0, 1);
        return { done: true };
      },
    });
    show(<SessionsDialog onClose={() => undefined} />);
    await screen.findByText("Firefox on Windows");
    expect(screen.getByText("this one")).toBeTruthy();
    expect(screen.queryByText("End all others")).toBeNull();
    fireEvent.click(screen.getByText("End it"));
    await waitFor(() => expect(screen.queryByText("Firefox on Windows")).toBeNull());
    expect(writes(asked).map(([method, path]) => `${method} ${path}`)).toEqual(["DELETE /api/session/all/2"]);
  });

  it("end all others in one go, and say what was refused", async () => {
    const asked = serve({
      "GET /api/session/all": { sessions: [session(1, CHROMIUM, true), session(2, FIREFOX), session(3, FIREFOX)] },
      "DELETE /api/session/all/2": { done: true },
      "DELETE /api/session/all/3": new Refusal(404, "not_found", {
        message: "There is no such session",
        help: "It ended",
      }),
    });
    show(<SessionsDialog onClose={() => undefined} />);
    fireEvent.click(await screen.findByText("End all others"));
    expect((await screen.findByRole("alert")).textContent).toBe("There is no such session. It ended");
    expect(writes(asked)).toHaveLength(2);
  });
});

describe("the frame", () => {
  const me = { csrf: "t", name: "Rosa Marsh", email: "rosa@saltmarsh.example", rights: ["look"] };
  const counts = { unreleased: 3, gaps: 0, release: 1, job: null };

  it("says while values are being judged that counts may change", async () => {
    serve({ "GET /api/counts": { ...counts, judging: true } });
    show(<Shell me={me} />);
    expect((await screen.findByText("Values are being judged: counts may still change")).role).toBe("status");
  });

  it("says nothing of it when none are", async () => {
    serve({ "GET /api/counts": { ...counts, judging: false } });
    show(<Shell me={me} />);
    await screen.findByText("3 unreleased");
    expect(screen.queryByText(/being judged/)).toBeNull();
  });
});

import { describe, expect, it, vi } from "vitest";

async function press(how: string, source: string, held = {}): Promise<Element | null> {
  document.body.innerHTML = `<main><a class="still" href="https://videos.example/w/1" data-plays="${how}" data-source="${source}"><b>Play: A wash</b></a></main>`;
  vi.resetModules();
  await import("./shop");
  const still = document.querySelector("a");
  still?.addEventListener("click", (event) => event.preventDefault());
  still?.dispatchEvent(new MouseEvent("click", { bubbles: true, cancelable: true, ...held }));
  await Promise.resolve();
  return document.querySelector("main")?.firstElementChild ?? null;
}

describe("a video on a page", () => {
  it("brings its player when pressed, kept apart from the page, and has the focus", async () => {
    const player = await press("frame", "https://videos.example/embed/1");
    expect(player?.tagName).toBe("IFRAME");
    expect(player?.getAttribute("src")).toBe("https://videos.example/embed/1");
    expect(player?.getAttribute("title")).toBe("Play: A wash");
    expect(player?.getAttribute("sandbox")).not.toContain("allow-top-navigation");
    expect(document.activeElement).toBe(player);
  });

  it("plays a file itself", async () => {
    const player = await press("file", "https://videos.example/wash.mp4");
    expect(player?.tagName).toBe("VIDEO");
  });

  it("stays a link for who opens it beside", async () => {
    const still = await press("frame", "https://videos.example/embed/1", { ctrlKey: true });
    expect(still?.tagName).toBe("A");
  });
});

import { beforeEach, describe, expect, it, vi } from "vitest";
import { dropAt, ownParts } from "./arrange";
import { awaken } from "./awake";
import { comparing } from "./comparing";
import { keep, kept } from "./kept";
import { saving } from "./saving";
import { tabs } from "./tabs";

beforeEach(() => {
  localStorage.clear();
  document.body.innerHTML = "";
  document.body.dataset.words = JSON.stringify({ compare: "Compare", out: "Take out", close: "Close", full: "Full" });
});

describe("panels as tabs", () => {
  const made = () => {
    document.body.innerHTML = `<div data-panels="tabs"><section data-title="A"><h2>A</h2>first</section><section data-title="B"><h2>B</h2>second</section></div>`;
    const panels = document.querySelector<HTMLElement>("[data-panels]") as HTMLElement;
    tabs(panels);
    return panels;
  };

  it("show one at a time, by a press or by arrows", () => {
    const panels = made();
    const [a, b] = [...panels.querySelectorAll<HTMLButtonElement>('[role="tab"]')];
    const [first, second] = [...panels.querySelectorAll<HTMLElement>("section")];
    expect([first?.hidden, second?.hidden]).toEqual([false, true]);
    a?.focus();
    a?.dispatchEvent(new KeyboardEvent("keydown", { key: "ArrowRight", bubbles: true }));
    expect([first?.hidden, second?.hidden]).toEqual([true, false]);
    expect(document.activeElement).toBe(b);
    expect(second?.getAttribute("aria-labelledby")).toBe(b?.id);
    a?.click();
    expect(a?.getAttribute("aria-selected")).toBe("true");
  });

  it("are made once, whoever asks again", () => {
    const panels = made();
    tabs(panels);
    expect(panels.querySelectorAll('[role="tablist"]')).toHaveLength(1);
  });
});

describe("what the browser keeps", () => {
  it("is a product saved for later, and taken out again", () => {
    document.body.innerHTML = `<button data-save="7" data-saved="Saved" hidden>Save</button>`;
    saving(document);
    const button = document.querySelector("button") as HTMLButtonElement;
    expect(button.hidden).toBe(false);
    button.click();
    expect([button.textContent, kept("saved")]).toEqual(["Saved", ["7"]]);
    button.click();
    expect([button.textContent, kept("saved")]).toEqual(["Save", []]);
  });

  it("is what was saved before, drawn on its page", async () => {
    localStorage.setItem("saved", '["7","8"]');
    vi.stubGlobal("fetch", async (address: string) => {
      expect(address).toBe("/shop/cards?ids=7%2C8");
      return new Response('<div class="cards"><article>Peat</article></div>');
    });
    document.body.innerHTML = `<div data-saved-list data-bare="Nothing">needs a script</div>`;
    saving(document);
    await vi.waitFor(() => expect(document.querySelector("article")?.textContent).toBe("Peat"));
  });

  it("is up to four products to compare, the fifth refused in words", () => {
    document.body.innerHTML = [1, 2, 3, 4, 5]
      .map((n) => `<a href="/shop/compare?p=${n}" data-compare="p${n}" data-title="P${n}">Compare</a>`)
      .join("");
    comparing(document);
    const links = [...document.querySelectorAll<HTMLAnchorElement>("a[data-compare]")];
    for (const link of links.slice(0, 4)) link.click();
    expect(document.querySelector<HTMLAnchorElement>(".tray a")?.getAttribute("href")).toBe(
      "/shop/compare?p=p1&p=p2&p=p3&p=p4",
    );
    links[4]?.click();
    expect(document.querySelector(".tray p")?.textContent).toBe("Full");
    expect(kept("compared")).toHaveLength(4);
    links[0]?.click();
    expect(kept<{ name: string }>("compared").map(({ name }) => name)).toEqual(["p2", "p3", "p4"]);
  });

  it("is nothing where what is kept can't be read", () => {
    localStorage.setItem("saved", "{broken");
    expect(kept("saved")).toEqual([]);
  });
});

describe("a proof", () => {
  it("shows nothing of what was put by in the shop, and leaves nothing there", () => {
    localStorage.setItem("saved", '["1"]');
    window.history.replaceState(null, "", "/proof/surface/product_page/1");
    try {
      document.body.innerHTML = `<button type="button" hidden data-save="1" data-saved="Saved">Save for later</button>
        <a href="/proof/compare?p=1" data-compare="1" data-title="Peat">Compare</a>`;
      awaken(document);
      const button = document.querySelector<HTMLButtonElement>("[data-save]");
      expect([button?.hidden, button?.textContent]).toEqual([false, "Save for later"]);
      button?.click();
      keep("compared", [{ name: "1", title: "Peat" }]);
      awaken(document);
      expect(button?.textContent).toBe("Saved");
      expect(document.querySelector("[data-compare]")?.getAttribute("aria-current")).toBe("true");
      expect(localStorage.getItem("saved")).toBe('["1"]');
      expect(localStorage.getItem("compared")).toBeNull();
    } finally {
      window.history.replaceState(null, "", "/");
    }
  });
});

describe("a part that is dragged", () => {
  it("goes behind the last neighbour that begins above, parts in parts aside", () => {
    document.body.innerHTML = `<div data-region="main"><div data-part="a"></div><div data-part="b"><div data-region="in"><div data-part="c"></div></div></div></div>`;
    const region = document.querySelector<HTMLElement>('[data-region="main"]') as HTMLElement;
    expect(ownParts(region).map((part) => part.dataset.part)).toEqual(["a", "b"]);
    const at = { a: 0, b: 100 } as Record<string, number>;
    for (const part of ownParts(region))
      part.getBoundingClientRect = () => ({ top: at[part.dataset.part ?? ""], height: 50 }) as DOMRect;
    expect(dropAt(region, 10, "x")).toEqual({ region: "main", after: null });
    expect(dropAt(region, 60, "x")).toEqual({ region: "main", after: "a" });
    expect(dropAt(region, 200, "x")).toEqual({ region: "main", after: "b" });
    expect(dropAt(region, 200, "b")).toEqual({ region: "main", after: "a" });
  });
});

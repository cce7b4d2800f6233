import "./proof.css";

// The proof asks for itself anew when the studio says so, puts the new content in place, and lights what differs.
const MARK = "[data-field]";

/** What each entry of a page says, by field and block. */
export function told(root: ParentNode): Map<string, string> {
  const out = new Map<string, string>();
  for (const one of root.querySelectorAll<HTMLElement>(MARK)) {
    const name = `${one.dataset.field} ${one.dataset.block} ${one.closest("article")?.querySelector("a")?.getAttribute("href") ?? ""}`;
    out.set(name, (out.get(name) ?? "") + one.outerHTML.replaceAll(/ class="[^"]*"/g, ""));
  }
  return out;
}

async function freshen(): Promise<void> {
  const response = await fetch(window.location.href, { headers: { Accept: "text/html" } });
  if (!response.ok) return;
  const page = new DOMParser().parseFromString(await response.text(), "text/html");
  const main = document.querySelector("main");
  const fresh = page.querySelector("main");
  if (!main || !fresh || main.innerHTML === fresh.innerHTML) return;
  const before = told(main);
  main.replaceChildren(...fresh.childNodes);
  light(main, before);
}

function light(root: ParentNode, before: Map<string, string>): void {
  const now = told(root);
  let first: HTMLElement | null = null;
  for (const one of root.querySelectorAll<HTMLElement>(MARK)) {
    const name = `${one.dataset.field} ${one.dataset.block} ${one.closest("article")?.querySelector("a")?.getAttribute("href") ?? ""}`;
    if (before.get(name) === now.get(name)) continue;
    one.classList.add("lit");
    first ??= one;
    setTimeout(() => one.classList.remove("lit"), 2600);
  }
  first?.scrollIntoView({ block: "nearest" });
}

/** Light what differs from the live page, when the address asks for it. */
async function against(): Promise<void> {
  const id = /\/proof\/product\/(\d+)/.exec(window.location.pathname)?.[1];
  const main = document.querySelector("main");
  if (!id || !main) return;
  const response = await fetch(`/proof/live/${id}`);
  const page = new DOMParser().parseFromString(await response.text(), "text/html");
  const live = told(page);
  if (live.size === 0) return;
  const now = told(main);
  for (const one of main.querySelectorAll<HTMLElement>(MARK)) {
    const name = `${one.dataset.field} ${one.dataset.block} ${one.closest("article")?.querySelector("a")?.getAttribute("href") ?? ""}`;
    one.classList.toggle("differs", live.get(name) !== now.get(name));
  }
}

window.addEventListener("message", (event) => {
  if (event.origin === window.location.origin && event.data?.proof === "freshen") void freshen();
});
document.addEventListener("click", (event) => {
  const entry = (event.target as Element).closest<HTMLElement>(MARK);
  if (!entry || (event.target as Element).closest("a[href]")) return;
  window.parent.postMessage({ pick: entry.dataset.field }, window.location.origin);
});
if (new URLSearchParams(window.location.search).get("against") === "live") void against();

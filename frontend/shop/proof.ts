import { arrange, mark } from "./arrange";
import { awaken } from "./awake";
import "./proof.css";

// The proof asks for itself anew when the studio says so, puts the new content in place, and lights what differs.
const MARK = "[data-field]";

/** An entry's name: its field, its block, and on a listing its product. */
function nameOf(element: HTMLElement): string {
  return `${element.dataset.field} ${element.dataset.block} ${element.closest("article")?.dataset.product ?? ""}`;
}

/** What each entry of a page says, by field and block. */
export function wordsByMark(root: ParentNode): Map<string, string> {
  const out = new Map<string, string>();
  for (const element of root.querySelectorAll<HTMLElement>(MARK)) {
    const name = nameOf(element);
    out.set(name, (out.get(name) ?? "") + element.outerHTML.replaceAll(/ class="[^"]*"/g, ""));
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
  const before = wordsByMark(main);
  main.replaceChildren(...fresh.childNodes);
  awaken(main);
  light(main, before);
  mark();
}

function light(root: ParentNode, before: Map<string, string>): void {
  const now = wordsByMark(root);
  let first: HTMLElement | null = null;
  for (const element of root.querySelectorAll<HTMLElement>(MARK)) {
    const name = nameOf(element);
    if (before.get(name) === now.get(name)) continue;
    element.classList.add("lit");
    first ??= element;
    setTimeout(() => element.classList.remove("lit"), 2600);
  }
  first?.scrollIntoView({ block: "nearest" });
}

/** Light what differs from the other page or listing that the address names: live from draft, draft from live. */
async function against(path: string): Promise<void> {
  const main = document.querySelector("main");
  if (!main || !/^\/(proof\/(live|product|record|surface|at)|shop\/c)\/[\w/-]+$/.test(path)) return;
  const response = await fetch(path);
  if (!response.ok) return;
  const live = wordsByMark(new DOMParser().parseFromString(await response.text(), "text/html"));
  if (live.size === 0) return;
  const now = wordsByMark(main);
  for (const element of main.querySelectorAll<HTMLElement>(MARK)) {
    const name = nameOf(element);
    element.classList.toggle("differs", withoutLinks(live.get(name)) !== withoutLinks(now.get(name)));
  }
}

/** Live and draft link to each other's products differently; that is no difference. */
function withoutLinks(html: string | undefined): string | undefined {
  return html?.replaceAll(/ href="[^"]*"/g, "");
}

window.addEventListener("message", (event) => {
  if (event.origin === window.location.origin && event.data?.proof === "freshen") void freshen();
});
const asked = new URLSearchParams(window.location.search);
if (asked.has("arrange")) arrange();
document.addEventListener("click", (event) => {
  const entry = (event.target as Element).closest<HTMLElement>(MARK);
  if (!entry || (event.target as Element).closest("a[href], [data-others]")) return;
  window.parent.postMessage({ pick: entry.dataset.field }, window.location.origin);
});
const live = asked.get("against");
if (live) void against(live);

import { keep, kept, shopWords } from "./kept";

const COMPARED = "compared";
const MOST = 4;
type Compared = { name: string; title: string };

/** Which links of a page are of products that are compared. */
export function compared(root: ParentNode): void {
  const now = kept<Compared>(COMPARED);
  for (const link of root.querySelectorAll<HTMLElement>("a[data-compare]"))
    link.setAttribute("aria-current", String(now.some(({ name }) => name === link.dataset.compare)));
}

/** Links that put a product among those compared, and the tray that leads to them. Without scripts a link compares one. */
export function comparing(root: ParentNode): void {
  const base = window.location.pathname.startsWith("/proof") ? "/proof" : "/shop";
  const draw = (full = false) => {
    compared(root);
    tray(kept<Compared>(COMPARED), base, draw, full);
  };
  document.addEventListener("click", (event) => {
    const link = (event.target as Element).closest<HTMLAnchorElement>("a[data-compare]");
    if (!link || event.ctrlKey || event.metaKey) return;
    event.preventDefault();
    const name = link.dataset.compare ?? "";
    const now = kept<Compared>(COMPARED);
    const without = now.filter((other) => other.name !== name);
    if (without.length < now.length) keep(COMPARED, without);
    else if (now.length < MOST) keep(COMPARED, [...now, { name, title: link.dataset.title ?? name }]);
    draw(without.length === now.length && now.length >= MOST);
  });
  const shown = root.querySelector("[data-comparison]");
  if (shown) {
    // What the page compares is what is kept: a link that was sent, or one taken out there.
    const names = [...shown.querySelectorAll<HTMLElement>("[data-compared]")];
    keep(
      COMPARED,
      names.map((head) => ({ name: head.dataset.compared, title: head.querySelector("h3")?.textContent?.trim() })),
    );
  } else draw();
}

function tray(now: readonly Compared[], base: string, draw: () => void, full: boolean): void {
  document.querySelector(".tray")?.remove();
  if (now.length === 0) return;
  const made = document.createElement("aside");
  made.className = "tray";
  const words = shopWords();
  made.setAttribute("aria-label", words.compare);
  for (const product of now) {
    const item = document.createElement("span");
    item.textContent = product.title;
    const out = document.createElement("button");
    out.type = "button";
    out.textContent = "×";
    out.setAttribute("aria-label", `${words.out} ${product.title}`);
    out.addEventListener("click", () => {
      keep(
        COMPARED,
        kept<Compared>(COMPARED).filter(({ name }) => name !== product.name),
      );
      draw();
    });
    item.append(out);
    made.append(item);
  }
  const go = document.createElement("a");
  go.href = `${base}/compare?${now.map(({ name }) => `p=${encodeURIComponent(name)}`).join("&")}`;
  go.textContent = `${words.compare} (${now.length})`;
  made.append(go);
  if (full) {
    const note = document.createElement("p");
    note.role = "status";
    note.textContent = words.full;
    made.append(note);
  }
  document.body.append(made);
}

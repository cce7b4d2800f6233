import { tabs } from "./tabs";

// What scripts add to a page, or to a part of it that is put in place anew.
export function enliven(root: ParentNode): void {
  for (const list of root.querySelectorAll("[data-pictures]")) list.addEventListener("click", changePicture);
  for (const still of root.querySelectorAll<HTMLAnchorElement>("a[data-plays]")) still.addEventListener("click", play);
  for (const panels of root.querySelectorAll<HTMLElement>('[data-panels="tabs"]')) tabs(panels);
  for (const button of root.querySelectorAll<HTMLButtonElement>("button[data-copy]")) copying(button);
  for (const pinned of root.querySelectorAll<HTMLElement>(".pinned")) pointOut(pinned);
}

/** A pin and its words light up together. */
function pointOut(pinned: HTMLElement): void {
  const light = (event: Event) => {
    const under = (event.target as Element).closest<HTMLElement>("[data-pin], [data-pinned]");
    const number = under?.dataset.pin ?? under?.dataset.pinned;
    for (const each of pinned.querySelectorAll<HTMLElement>("[data-pin], [data-pinned]"))
      each.classList.toggle("lit", number !== undefined && (each.dataset.pin ?? each.dataset.pinned) === number);
  };
  for (const name of ["pointerover", "focusin", "pointerleave"]) pinned.addEventListener(name, light);
}

/** Small pictures of a product change the large one in place; without scripts they are links to the picture. */
function changePicture(event: Event): void {
  const small = (event.target as Element).closest("a")?.querySelector("img");
  const large = (event.currentTarget as Element).closest(".pictures")?.querySelector<HTMLImageElement>(".large img");
  if (!small || !large) return;
  event.preventDefault();
  large.srcset = small.srcset;
  large.src = small.src;
  large.alt = small.alt;
}

/** A video is a link to its page until it is pressed: only then its player comes, from where the link says. */
function play(event: MouseEvent): void {
  if (event.metaKey || event.ctrlKey || event.shiftKey) return;
  const still = event.currentTarget as HTMLAnchorElement;
  event.preventDefault();
  still.replaceWith(
    player(still.dataset.plays ?? "", still.dataset.source ?? "", still.querySelector("b")?.textContent ?? ""),
  );
}

function copying(button: HTMLButtonElement): void {
  button.hidden = !navigator.clipboard;
  const words = button.textContent;
  button.addEventListener("click", async () => {
    await navigator.clipboard.writeText(button.dataset.copy ?? "");
    button.textContent = button.dataset.done ?? words;
    setTimeout(() => {
      button.textContent = words;
    }, 2500);
  });
}

function player(how: string, source: string, words: string): HTMLElement {
  const made =
    how === "file" ? Object.assign(document.createElement("video"), { controls: true, autoplay: true }) : frame();
  made.src = source;
  made.title = words.trim();
  made.className = "player";
  made.tabIndex = 0;
  queueMicrotask(() => made.focus());
  return made;
}

function frame(): HTMLIFrameElement {
  const made = document.createElement("iframe");
  made.setAttribute("sandbox", "allow-scripts allow-same-origin allow-presentation");
  made.allow = "autoplay; fullscreen; picture-in-picture";
  made.referrerPolicy = "strict-origin-when-cross-origin";
  return made;
}

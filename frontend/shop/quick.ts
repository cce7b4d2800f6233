import { awaken } from "./awake";
import { shopWords } from "./kept";

/** A quick look opens over the page it was asked from; without scripts it is a page of its own. */
export function quickLooks(): void {
  document.addEventListener("click", async (event) => {
    const link = (event.target as Element).closest<HTMLAnchorElement>("a[data-quick]");
    if (!link || event.ctrlKey || event.metaKey || event.shiftKey) return;
    event.preventDefault();
    const response = await fetch(link.href);
    if (!response.ok) {
      window.location.href = link.href;
      return;
    }
    const page = new DOMParser().parseFromString(await response.text(), "text/html");
    const look = page.querySelector<HTMLElement>("#quick");
    if (look) show(look, link);
  });
}

function show(look: HTMLElement, link: HTMLElement): void {
  const dialog = document.createElement("dialog");
  dialog.className = "overlook";
  dialog.setAttribute("aria-label", link.textContent?.trim() ?? "");
  const close = document.createElement("button");
  close.type = "button";
  close.className = "close";
  close.textContent = "×";
  close.setAttribute("aria-label", shopWords().close);
  close.addEventListener("click", () => dialog.close());
  dialog.addEventListener("click", (event) => event.target === dialog && dialog.close());
  dialog.addEventListener("close", () => {
    dialog.remove();
    link.focus();
  });
  dialog.append(close, look);
  document.body.append(dialog);
  awaken(dialog);
  dialog.showModal();
}

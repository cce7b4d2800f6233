import { keep, kept } from "./kept";

const SAVED = "saved";
const MOST = 60;

/** Buttons that save a product for later, and the page of what was saved. */
export function saving(root: ParentNode): void {
  for (const button of root.querySelectorAll<HTMLButtonElement>("button[data-save]")) {
    button.hidden = false;
    const words = button.textContent ?? "";
    const draw = () => {
      const is = kept<string>(SAVED).includes(button.dataset.save ?? "");
      button.setAttribute("aria-pressed", String(is));
      button.textContent = is ? (button.dataset.saved ?? words) : words;
    };
    button.addEventListener("click", () => {
      const id = button.dataset.save ?? "";
      const now = kept<string>(SAVED).filter((other) => other !== id);
      keep(SAVED, now.length < kept<string>(SAVED).length ? now : [id, ...now].slice(0, MOST));
      draw();
    });
    draw();
  }
  const list = root.querySelector<HTMLElement>("[data-saved-list]");
  if (list) void fill(list);
}

async function fill(list: HTMLElement): Promise<void> {
  const ids = kept<string>(SAVED);
  const bare = () => {
    const words = document.createElement("p");
    words.className = "bare";
    words.textContent = list.dataset.bare ?? "";
    list.replaceChildren(words);
  };
  if (ids.length === 0) return bare();
  const response = await fetch(`/shop/cards?ids=${encodeURIComponent(ids.join(","))}`);
  if (!response.ok) return;
  const page = new DOMParser().parseFromString(await response.text(), "text/html");
  const cards = page.querySelector(".cards");
  if (!cards?.childElementCount) return bare();
  list.replaceChildren(cards);
}

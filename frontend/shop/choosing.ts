import { finding, lookAgain, lookedFor } from "./finding";
import { wake } from "./parts";

const WAIT = 250;
/** How much of what was typed goes along when a price is asked for; the whole is sent with the order. */
const TYPED = 1000;

/** A choice is asked of the shop itself as it is made; without scripts a button asks for it. */
export function choosing(root: ParentNode): void {
  for (const form of root.querySelectorAll<HTMLFormElement>("form[data-buy]")) follow(form);
  finding(root);
  for (const list of root.querySelectorAll<HTMLElement>(".card .range")) swatchPictures(list);
}

function follow(form: HTMLFormElement): void {
  let timer = 0;
  let latest = 0;
  const article = form.closest<HTMLElement>("article");
  if (!article) return;
  for (const plain of article.querySelectorAll<HTMLElement>("[data-plain]")) plain.hidden = true;
  const ask = async () => {
    latest += 1;
    const turn = latest;
    const asked = choice(form);
    const response = await fetch(`${form.dataset.buy}?${asked.all}`).catch(() => null);
    if (!response?.ok || turn !== latest) return;
    const page = new DOMParser().parseFromString(await response.text(), "text/html");
    const fresh = page.querySelector<HTMLElement>(`#${form.id}`)?.closest<HTMLElement>("article");
    if (!fresh || turn !== latest) return;
    renew(article, fresh);
    if (form.dataset.address !== undefined) {
      const query = asked.address.toString();
      history.replaceState(history.state, "", window.location.pathname + (query ? `?${query}` : ""));
    }
  };
  article.addEventListener("change", (event) => {
    if ((event.target as HTMLInputElement).form === form && (event.target as HTMLInputElement).type !== "file")
      void ask();
  });
  article.addEventListener("input", (event) => {
    const input = event.target as HTMLInputElement;
    if (input.form !== form || !["text", "textarea", "number"].includes(input.type)) return;
    window.clearTimeout(timer);
    timer = window.setTimeout(() => void ask(), WAIT);
  });
}

/** What is chosen: all of it, and what an address holds of it, which is what is picked or ticked. */
export function choice(form: HTMLFormElement): { all: URLSearchParams; address: URLSearchParams } {
  const all = new URLSearchParams();
  const address = new URLSearchParams();
  for (const [name, value] of new FormData(form)) {
    if (typeof value !== "string" || name === ".product") continue;
    all.append(name, value.slice(0, TYPED));
    const picked = optionIn(form.closest("article") ?? form, name);
    const typed = picked?.querySelector("input[type=text], textarea, input[type=date], input[type=file]");
    // That nothing is chosen is said only where something would be otherwise.
    if (picked && !typed && (value || picked.dataset.usual !== undefined)) address.append(name, value);
  }
  return { all, address };
}

const optionIn = (root: HTMLElement, key?: string) =>
  [...root.querySelectorAll<HTMLElement>("[data-option]")].find((option) => option.dataset.option === key);

const options = (root: HTMLElement) => root.querySelectorAll<HTMLElement>("[data-option][data-picked]");

/** Puts in what is otherwise now; what is being typed or is in focus stays where it is. */
export function renew(old: HTMLElement, fresh: HTMLElement): void {
  const parts = leaves(fresh);
  const known = leaves(old);
  if (parts.map(name).join() !== known.map(name).join()) {
    keepTyped(old, fresh);
    const focused = mark(document.activeElement);
    const sought = new Map([...options(old)].map((option) => [option.dataset.option, lookedFor(option)]));
    old.replaceChildren(...fresh.childNodes);
    wake(old);
    for (const option of options(old)) lookAgain(option, sought.get(option.dataset.option) ?? { words: "", top: 0 });
    for (const plain of old.querySelectorAll<HTMLElement>("[data-plain]")) plain.hidden = true;
    restore(old, focused);
    return;
  }
  known.forEach((part, at) => {
    const next = parts[at];
    if (next && part.innerHTML !== next.innerHTML) renewPart(part, next);
  });
}

const leaves = (root: HTMLElement) =>
  [...root.querySelectorAll<HTMLElement>("[data-part]")].filter((part) => !part.querySelector("[data-part]"));
const name = (part: HTMLElement) => part.dataset.part ?? "";

function renewPart(part: HTMLElement, next: HTMLElement): void {
  const parts = part.querySelectorAll<HTMLElement>("[data-option]");
  if (parts.length === 0) {
    const focused = mark(document.activeElement);
    part.replaceChildren(...next.childNodes);
    wake(part);
    for (const plain of part.querySelectorAll<HTMLElement>("[data-plain]")) plain.hidden = true;
    restore(part, focused);
    return;
  }
  for (const option of parts) {
    const fresh = optionIn(next, option.dataset.option);
    if (!fresh) continue;
    if (option.dataset.picked === undefined) renewWords(option, fresh);
    else if (option.innerHTML !== fresh.innerHTML) {
      const focused = mark(document.activeElement);
      const sought = lookedFor(option);
      option.replaceChildren(...fresh.childNodes);
      lookAgain(option, sought);
      restore(option, focused);
    }
  }
}

/** Of what is typed only what is told of it is put in anew. */
function renewWords(option: HTMLElement, fresh: HTMLElement): void {
  // What was sent is told anew, as nothing is being typed there.
  const sends = option.querySelector("input[data-sends]");
  if (sends && kept(option) !== kept(fresh)) {
    const focused = document.activeElement === sends;
    option.replaceChildren(...fresh.childNodes);
    wake(option);
    if (focused) option.querySelector<HTMLElement>("input[data-sends]")?.focus();
    return;
  }
  if (sends && option.querySelector("[data-said]")) return;
  option.querySelector(":scope > .wrong")?.remove();
  const wrong = fresh.querySelector(":scope > .wrong");
  if (wrong) option.append(wrong);
}

/** The token of what was sent for an option, as it is shown there. */
const kept = (option: HTMLElement) => option.querySelector("img, .sent")?.closest(".sent")?.outerHTML ?? "";

type Mark = { name: string; value: string; box: HTMLElement | null } | null;
const TYPED_IN = ["text", "textarea", "number", "search"];

function mark(element: Element | null): Mark {
  if (
    !(
      element instanceof HTMLInputElement ||
      element instanceof HTMLSelectElement ||
      element instanceof HTMLTextAreaElement
    )
  )
    return null;
  return { name: element.name, value: element.value, box: TYPED_IN.includes(element.type) ? element : null };
}

function restore(root: HTMLElement, focused: Mark): void {
  if (!focused) return;
  const found = [...root.querySelectorAll<HTMLInputElement>("input, select, textarea")].filter(
    (input) => input.name === focused.name && input.type !== "hidden",
  );
  const same = found.find((input) => input.value === focused.value) ?? (found.length === 1 ? found[0] : undefined);
  if (!same) return;
  // What is being typed stays the box it is typed in, with its caret.
  if (focused.box && focused.box !== same) same.replaceWith(focused.box);
  (focused.box ?? same).focus();
}

function keepTyped(old: HTMLElement, fresh: HTMLElement): void {
  for (const option of old.querySelectorAll<HTMLElement>("[data-option]:not([data-picked])")) {
    // What was sent already is told by the shop.
    if (option.querySelector<HTMLInputElement>("input[data-sends]")?.files?.length === 0) continue;
    optionIn(fresh, option.dataset.option)?.replaceWith(option);
  }
  const form = old.querySelector("form[data-buy]");
  if (form) fresh.querySelector("form[data-buy]")?.replaceWith(form);
}

/** A swatch of a card shows its picture there while it is pointed at or in focus. */
function swatchPictures(list: HTMLElement): void {
  const image = list.closest(".card")?.querySelector<HTMLImageElement>(".part-pictures img");
  if (!image) return;
  const usual = { src: image.src, srcset: image.srcset };
  const show = (event: Event) => {
    const picture = (event.target as Element).closest<HTMLElement>("[data-pictured]")?.dataset.pictured;
    image.srcset = picture ? "" : usual.srcset;
    image.src = picture ?? usual.src;
  };
  const back = () => {
    image.srcset = usual.srcset;
    image.src = usual.src;
  };
  list.addEventListener("pointerover", show);
  list.addEventListener("focusin", show);
  list.addEventListener("pointerleave", back);
  list.addEventListener("focusout", back);
}

/** How many lines the basket has, as the shop last said. */
export function basketCount(): void {
  const count = /(?:^|; )basket_lines=(\d+)/.exec(document.cookie)?.[1] ?? "0";
  for (const at of document.querySelectorAll("[data-count]")) at.textContent = count === "0" ? "" : ` ${count}`;
}

/** Long lists of values are narrowed by what is typed; without scripts all of them stand. */
export function finding(root: ParentNode): void {
  for (const box of root.querySelectorAll<HTMLInputElement>("[data-find]")) {
    const list = listOf(box);
    if (!list) continue;
    box.hidden = false;
    const chosen = list.querySelector("input:checked")?.closest(".choice");
    if (chosen) list.scrollTop += chosen.getBoundingClientRect().top - list.getBoundingClientRect().top - 40;
    box.addEventListener("input", () => narrow(box));
  }
}

/** What is looked for in an option, and how far its list is scrolled; kept when its values are put in anew. */
export function lookedFor(option: HTMLElement): { words: string; top: number } {
  return {
    words: option.querySelector<HTMLInputElement>("[data-find]")?.value ?? "",
    top: option.querySelector(".choices")?.scrollTop ?? 0,
  };
}

export function lookAgain(option: HTMLElement, { words, top }: { words: string; top: number }): void {
  finding(option);
  const box = option.querySelector<HTMLInputElement>("[data-find]");
  if (!box) return;
  box.value = words;
  narrow(box);
  const list = listOf(box);
  if (list) list.scrollTop = top;
}

const listOf = (box: HTMLElement) => box.closest(".option")?.querySelector<HTMLElement>(".choices");

function narrow(box: HTMLInputElement): void {
  const words = box.value.trim().toLocaleLowerCase();
  let shown = 0;
  for (const choice of listOf(box)?.querySelectorAll<HTMLElement>(".choice") ?? []) {
    choice.hidden = !(choice.textContent ?? "").toLocaleLowerCase().includes(words);
    if (!choice.hidden) shown += 1;
  }
  const none = box.closest(".option")?.querySelector<HTMLElement>("[data-none]");
  if (none) none.hidden = shown > 0;
}

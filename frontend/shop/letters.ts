/** How many letters are left of what is typed, counted as the shop counts them; nothing is cut. */
export function letters(root: ParentNode): void {
  for (const words of root.querySelectorAll<HTMLElement>("[data-letters]")) {
    const box = words.parentElement?.querySelector<HTMLInputElement | HTMLTextAreaElement>(
      "input[type=text], textarea",
    );
    if (!box) continue;
    const most = Number(words.dataset.letters);
    const tell = () => {
      const left = most - [...box.value].length;
      const over = left < 0;
      words.textContent = (over ? words.dataset.over : words.dataset.left)?.replace("#", String(Math.abs(left))) ?? "";
      words.classList.toggle("over", over);
    };
    box.addEventListener("input", tell);
    if (box.value) tell();
  }
}

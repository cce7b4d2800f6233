type Answer = { tokens?: Record<string, string>; option?: string; words?: string };

/** A file goes as soon as it is chosen: the shop says what is wrong with it, and prices it, before anything is ordered. */
export function sending(root: ParentNode): void {
  for (const box of root.querySelectorAll<HTMLInputElement>("input[data-sends]")) {
    if (box.dataset.awake) continue;
    box.dataset.awake = "1";
    box.addEventListener("change", () => void send(box));
    const off = optionOf(box)?.querySelector<HTMLButtonElement>("[data-unsend]");
    if (!off) continue;
    off.hidden = false;
    off.addEventListener("click", () => {
      keep(box, "");
      box.focus();
    });
  }
}

const optionOf = (box: HTMLElement) => box.closest<HTMLElement>("[data-option]");

async function send(box: HTMLInputElement): Promise<void> {
  const file = box.files?.[0];
  const product = box.form?.querySelector<HTMLInputElement>("input[name='.product']")?.value;
  if (!file || !product || window.location.pathname.startsWith("/proof")) return;
  const body = new FormData();
  body.append(".product", product);
  body.append(box.name, file);
  say(box, box.dataset.sends ?? "", false);
  box.setAttribute("aria-busy", "true");
  const response = await fetch("/shop/sent", { method: "POST", body }).catch(() => null);
  box.removeAttribute("aria-busy");
  // Where it did not go through it goes with the form, as it does without scripts.
  if (!response || (!response.ok && response.status !== 422)) return say(box, "", false);
  const answer: Answer = await response.json();
  const token = answer.tokens?.[box.name];
  box.value = "";
  if (token) keep(box, token);
  else say(box, answer.words ?? "", true);
}

/** Puts the token of what was sent into the form, or none, and asks the shop what comes of it. */
function keep(box: HTMLInputElement, token: string): void {
  const option = optionOf(box);
  let kept = option?.querySelector<HTMLInputElement>(`input[type=hidden][name="${CSS.escape(box.name)}"]`);
  if (!kept) {
    kept = Object.assign(document.createElement("input"), { type: "hidden", name: box.name });
    kept.setAttribute("form", box.getAttribute("form") ?? "");
    box.before(kept);
  }
  kept.value = token;
  say(box, "", false);
  kept.dispatchEvent(new Event("change", { bubbles: true }));
}

function say(box: HTMLInputElement, words: string, wrong: boolean): void {
  const option = optionOf(box);
  option?.querySelector("[data-said]")?.remove();
  if (wrong) option?.querySelector(":scope > .wrong")?.remove();
  if (!words) return;
  const line = Object.assign(document.createElement("p"), { textContent: words, className: wrong ? "wrong" : "aside" });
  line.dataset.said = "";
  line.role = wrong ? "alert" : "status";
  option?.append(line);
}

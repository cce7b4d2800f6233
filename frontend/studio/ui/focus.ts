/** Keys that wait, in the order in which they were pressed. */
type Pressed = { key: string; shiftKey: boolean };

const LONGEST = 8000;
const LOOK_EVERY = 20;
/** What is typed in, and nothing that takes away what was just made. */
const BOXES =
  "input:not([type=checkbox]):not([type=radio]):not([type=file]):not([type=search]), textarea, select, [contenteditable=true]";

let holds = 0;
let replaying = false;
const waiting: Pressed[] = [];
/** Presses that were let go: they are not held again. */
const own = new WeakSet<Event>();

function hold(event: KeyboardEvent) {
  const busy = holds > 0 || replaying || waiting.length > 0;
  if (!busy || own.has(event) || event.ctrlKey || event.metaKey || event.altKey || event.isComposing) return;
  if (event.key.length > 1 && !["Enter", "Backspace", "Escape"].includes(event.key)) return;
  event.preventDefault();
  event.stopImmediatePropagation();
  waiting.push({ key: event.key, shiftKey: event.shiftKey });
}
window.addEventListener("keydown", hold, true);

/** Has keys wait until what they are meant for is there; gives how to let them go. */
export function holdKeys(): () => void {
  holds += 1;
  let held = true;
  const release = () => {
    if (!held) return;
    held = false;
    holds -= 1;
    void replay();
  };
  setTimeout(release, LONGEST);
  return release;
}

async function replay(): Promise<void> {
  if (replaying) return;
  replaying = true;
  while (holds === 0 && waiting.length > 0) {
    const pressed = waiting.shift();
    if (pressed) press(pressed);
    // What a key opens takes the focus before the next one comes.
    await new Promise((done) => setTimeout(done, LOOK_EVERY));
  }
  replaying = false;
}

/** Does what a key would have done where the focus is now. */
function press({ key, shiftKey }: Pressed): void {
  const at = document.activeElement ?? document.body;
  const event = new KeyboardEvent("keydown", { key, shiftKey, bubbles: true, cancelable: true });
  own.add(event);
  if (at.dispatchEvent(event)) typed({ key, shiftKey });
}

/** What a browser does at a key that nobody else takes: it is typed, sends a form, or presses a button. */
export function typed({ key }: Pressed): void {
  const at = document.activeElement ?? document.body;
  if (at instanceof HTMLInputElement || at instanceof HTMLTextAreaElement) typeInto(at, key);
  else if (at instanceof HTMLElement && at.isContentEditable) {
    // Editors of rich text hear of what a browser types alone.
    if (key.length === 1) document.execCommand("insertText", false, key);
    else if (key === "Enter") document.execCommand("insertParagraph");
    else if (key === "Backspace") document.execCommand("delete");
  } else if ((key === "Enter" || key === " ") && at.matches("a, button")) (at as HTMLElement).click();
}

function typeInto(box: HTMLInputElement | HTMLTextAreaElement, key: string): void {
  if (key === "Enter" && box instanceof HTMLInputElement) {
    box.form?.requestSubmit();
    return;
  }
  const [from, to] = [box.selectionStart ?? box.value.length, box.selectionEnd ?? box.value.length];
  const back = key === "Backspace" && from === to ? 1 : 0;
  const text = key === "Enter" ? "\n" : key === "Backspace" ? "" : key.length === 1 ? key : null;
  if (text === null) return;
  const next = box.value.slice(0, Math.max(0, from - back)) + text + box.value.slice(to);
  const prototype = box instanceof HTMLInputElement ? HTMLInputElement.prototype : HTMLTextAreaElement.prototype;
  // A value that is put any other way is not heard of.
  Object.getOwnPropertyDescriptor(prototype, "value")?.set?.call(box, next);
  const caret = Math.max(0, from - back) + text.length;
  box.setSelectionRange(caret, caret);
  box.dispatchEvent(new InputEvent("input", { bubbles: true, data: text, inputType: "insertText" }));
}

/**
 * Puts the focus where the next thing is done, once that is there: after something was made, added, pasted, merged, taken
 * away or refused. What is typed meanwhile goes there too. `find` gives false once it is no longer wanted.
 */
export function focusOnceThere(find: () => HTMLElement | null | undefined | false): void {
  const release = holdKeys();
  const until = Date.now() + LONGEST;
  const look = () => {
    const found = find();
    if (found !== false && found?.isConnected) {
      found.focus();
      release();
    } else if (found === false || Date.now() > until) release();
    else setTimeout(look, LOOK_EVERY);
  };
  look();
}

/** What says in a part of a view that it is done next. */
export function nextIn(part: HTMLElement | null | undefined): HTMLElement | null {
  return part?.querySelector<HTMLElement>("[data-next]") ?? null;
}

/** The box that what is wrong in a part of a view is told below; null until it is told. */
export function boxAtFault(part: HTMLElement | null | undefined): HTMLElement | null {
  const fault = part?.querySelector("[role=alert]");
  if (!part || !fault) return null;
  const before = [...part.querySelectorAll<HTMLElement>(BOXES)].filter(
    (box) => box.compareDocumentPosition(fault) & Node.DOCUMENT_POSITION_FOLLOWING,
  );
  return before.at(-1) ?? boxIn(part);
}

/** The first box of a part of a view that can be typed in. */
export function boxIn(part: HTMLElement | null | undefined): HTMLElement | null {
  return part?.querySelector<HTMLElement>(BOXES) ?? null;
}

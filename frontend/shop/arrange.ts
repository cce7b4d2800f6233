// The page in the layout editor: blocks are picked by a press, dragged to where they go, and moved by keys. What is asked is
// told to the studio, which does it; the page then asks for itself anew.
const PART = "[data-part]";
/** What holds cards of others: their parts are of another layout. */
const OTHERS = "[data-others]";

type Drop = { region: string; after: string | null };

function tell(arrange: Record<string, unknown>): void {
  window.parent.postMessage({ arrange }, window.location.origin);
}

function partOf(target: EventTarget | null): HTMLElement | null {
  const at = target as Element | null;
  return (at?.closest(OTHERS) ?? at)?.closest<HTMLElement>(PART) ?? null;
}

/** The panel that a tab belongs to. */
function panelOf(target: EventTarget | null): HTMLElement | null {
  const tab = (target as Element | null)?.closest('[role="tab"]');
  return document.getElementById(tab?.getAttribute("aria-controls") ?? "");
}

/** Where a part would go when it is let go at a height: behind the last of its new neighbours that begins above. */
export function dropAt(region: HTMLElement, y: number, dragged: string): Drop {
  let after: string | null = null;
  for (const part of ownParts(region)) {
    const name = part.dataset.part ?? "";
    const box = part.getBoundingClientRect();
    if (name !== dragged && box.top + box.height / 2 < y) after = name;
  }
  return { region: region.dataset.region ?? "", after };
}

/** The parts of a region itself, those in parts of them left out. */
export function ownParts(region: HTMLElement): HTMLElement[] {
  return [...region.querySelectorAll<HTMLElement>(PART)].filter(
    (part) => part.parentElement?.closest("[data-region]") === region && !part.parentElement?.closest(OTHERS),
  );
}

export function arrange(): void {
  const line = document.createElement("div");
  line.className = "dropline";
  line.hidden = true;
  document.body.append(line);
  document.body.classList.add("arranging");
  let drag: { name: string; x: number; y: number; on: boolean; drop: Drop | null } | null = null;

  function show(drop: Drop, region: HTMLElement): void {
    const parts = ownParts(region);
    const before = parts.find((part) => part.dataset.part === drop.after);
    const box = (before ?? parts[0] ?? region).getBoundingClientRect();
    line.hidden = false;
    line.style.left = `${box.left + window.scrollX}px`;
    line.style.width = `${box.width}px`;
    line.style.top = `${(before ? box.bottom : box.top) + window.scrollY}px`;
  }

  document.addEventListener("pointerdown", (event) => {
    const part = partOf(event.target);
    if (!part || event.button !== 0) return;
    drag = { name: part.dataset.part ?? "", x: event.clientX, y: event.clientY, on: false, drop: null };
  });
  document.addEventListener("pointermove", (event) => {
    if (!drag) return;
    if (!drag.on && Math.hypot(event.clientX - drag.x, event.clientY - drag.y) < 6) return;
    drag.on = true;
    document.body.classList.add("dragging");
    const under = document.elementFromPoint(event.clientX, event.clientY);
    const region = under?.closest<HTMLElement>("[data-region]");
    const inside = region?.closest(`[data-part="${CSS.escape(drag.name)}"]`);
    drag.drop = region && !inside ? dropAt(region, event.clientY, drag.name) : null;
    if (drag.drop && region) show(drag.drop, region);
    else line.hidden = true;
  });
  document.addEventListener("pointerup", () => {
    if (drag?.on && drag.drop) tell({ drop: drag.name, ...drag.drop });
    line.hidden = true;
    document.body.classList.remove("dragging");
    setTimeout(() => {
      drag = null;
    });
  });
  document.addEventListener("dragstart", (event) => event.preventDefault());
  // A press picks: links and buttons of the page lead nowhere while it is arranged.
  document.addEventListener(
    "click",
    (event) => {
      if (!event.isTrusted) return;
      const part = panelOf(event.target) ?? partOf(event.target);
      event.preventDefault();
      event.stopPropagation();
      if (part && !drag?.on) tell({ part: part.dataset.part });
    },
    true,
  );
  document.addEventListener("keydown", (event) => {
    const by = { ArrowUp: -1, ArrowDown: 1 }[event.key];
    if (by) {
      event.preventDefault();
      tell(event.altKey ? { by } : { step: by });
    } else if (event.key === "Delete") tell({ remove: true });
    else if (event.key === "Enter") tell({ settings: true });
    else return;
    event.preventDefault();
  });
  window.addEventListener("message", (event) => {
    if (event.origin !== window.location.origin || !("picked" in (event.data ?? {}))) return;
    mark(event.data.picked as string | null);
  });
}

let picked: string | null = null;

/** Frames the part that is picked, and brings it into view; again after the page was made anew. */
export function mark(name: string | null = picked): void {
  picked = name;
  for (const part of document.querySelectorAll(`${PART}.picked`)) part.classList.remove("picked");
  const part = name ? document.querySelector<HTMLElement>(`[data-part="${CSS.escape(name)}"]:not(${OTHERS} *)`) : null;
  const details = part?.closest("details");
  if (details) details.open = true;
  if (part?.hidden) document.querySelector<HTMLElement>(`[aria-controls="${CSS.escape(part.id)}"]`)?.click();
  part?.classList.add("picked");
  part?.scrollIntoView({ block: "nearest" });
}

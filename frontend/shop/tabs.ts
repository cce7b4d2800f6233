let made = 0;

/** Panels as tabs: their headings become a row of tabs, arrows go from one to the next, and one panel shows at a time. */
export function tabs(panels: HTMLElement): void {
  const all = [...panels.children].filter((child): child is HTMLElement => child instanceof HTMLElement);
  if (all.length === 0 || panels.querySelector('[role="tablist"]')) return;
  const row = document.createElement("div");
  row.setAttribute("role", "tablist");
  row.className = "tablist";
  const buttons = all.map((panel) => {
    made += 1;
    const heading = panel.querySelector("h2");
    const button = document.createElement("button");
    button.type = "button";
    button.role = "tab";
    button.id = `tab-${made}`;
    panel.id ||= `panel-${made}`;
    panel.role = "tabpanel";
    panel.setAttribute("aria-labelledby", button.id);
    button.setAttribute("aria-controls", panel.id);
    button.append(
      ...(heading ? [...heading.childNodes].map((node) => node.cloneNode(true)) : [panel.dataset.title ?? ""]),
    );
    // The tab says it to the eye; who goes by headings finds it where it was.
    heading?.classList.add("visually-hidden");
    return button;
  });
  const choose = (index: number) => {
    for (const [at, button] of buttons.entries()) {
      button.setAttribute("aria-selected", String(at === index));
      button.tabIndex = at === index ? 0 : -1;
      const panel = all[at];
      if (panel) panel.hidden = at !== index;
    }
  };
  for (const [index, button] of buttons.entries()) button.addEventListener("click", () => choose(index));
  row.addEventListener("keydown", (event) => {
    const at = buttons.indexOf(event.target as HTMLButtonElement);
    const to = { ArrowRight: at + 1, ArrowLeft: at - 1, Home: 0, End: buttons.length - 1 }[event.key];
    const next = to === undefined ? undefined : buttons[(to + buttons.length) % buttons.length];
    if (at < 0 || !next) return;
    event.preventDefault();
    choose(buttons.indexOf(next));
    next.focus();
  });
  row.append(...buttons);
  panels.prepend(row);
  choose(0);
}

import "./shop.css";

// Small pictures of a product change the large one in place; without this script they are links to the picture.
for (const list of document.querySelectorAll("[data-pictures]")) {
  list.addEventListener("click", (event) => {
    const small = (event.target as Element).closest("a")?.querySelector("img");
    const large = document.querySelector<HTMLImageElement>("#picture img");
    if (!small || !large) return;
    event.preventDefault();
    large.srcset = small.srcset;
    large.src = small.src;
    large.alt = small.alt;
  });
}

// A video is a link to its page until it is pressed: only then its player comes, from where the link says.
for (const still of document.querySelectorAll<HTMLAnchorElement>("a[data-plays]")) {
  still.addEventListener("click", (event) => {
    if (event.metaKey || event.ctrlKey || event.shiftKey) return;
    event.preventDefault();
    still.replaceWith(
      player(still.dataset.plays ?? "", still.dataset.source ?? "", still.querySelector("b")?.textContent ?? ""),
    );
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

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

import { beforeEach, describe, expect, it, vi } from "vitest";
import { basketCount, choice, choosing, renew } from "./choosing";

const page = (colour: string, typed = "", more = "") => `
<article class="product"><form id="buy" data-buy="/shop/p/book" data-address><input type="hidden" name=".product" value="5"></form>
<div data-part="price">€${colour === "blue" ? 42 : 40}</div>
<div data-part="options">
<fieldset data-option="colour" data-picked><input type="radio" name="colour" value="red" form="buy"${colour === "red" ? " checked" : ""}><input type="radio" name="colour" value="blue" form="buy"${colour === "blue" ? " checked" : ""}></fieldset>
<fieldset data-option="name"><input type="text" name="name" form="buy" value="${typed}">${more}</fieldset></div>
<div data-part="to_basket"><input type="number" name=".quantity" form="buy" value="1"><button data-plain form="buy">Show</button></div></article>`;

const article = () => document.querySelector("article") as HTMLElement;
const other = (html: string) =>
  new DOMParser().parseFromString(html, "text/html").querySelector("article") as HTMLElement;

describe("Choosing", () => {
  beforeEach(() => {
    document.body.innerHTML = page("red");
    history.replaceState(null, "", "/shop/p/book");
  });

  it("asks with all that is chosen, and keeps what is typed out of the address", () => {
    (document.querySelector("[name=name]") as HTMLInputElement).value = "Anna";
    const asked = choice(document.querySelector("form") as HTMLFormElement);
    expect(asked.all.toString()).toBe("colour=red&name=Anna&.quantity=1");
    expect(asked.address.toString()).toBe("colour=red");
  });

  it("says that nothing is chosen only where something would be otherwise", () => {
    const option = document.querySelector("[data-option=colour]") as HTMLElement;
    option.insertAdjacentHTML("beforeend", `<select name="colour" form="buy"><option value="">None</option></select>`);
    for (const input of option.querySelectorAll("input")) input.remove();
    const form = document.querySelector("form") as HTMLFormElement;
    expect(choice(form).address.toString()).toBe("");
    option.dataset.usual = "";
    expect(choice(form).address.toString()).toBe("colour=");
  });

  it("puts in the parts that differ, and leaves what is being typed and in focus", () => {
    const typed = document.querySelector("[name=name]") as HTMLInputElement;
    typed.value = "Ann";
    typed.focus();
    renew(article(), other(page("blue", "", '<p class="wrong">Too long</p>')));
    expect(document.querySelector("[data-part=price]")?.textContent).toBe("€42");
    expect((document.querySelector("[value=blue]") as HTMLInputElement).checked).toBe(true);
    expect(document.querySelector("[name=name]")).toBe(typed);
    expect(document.activeElement).toBe(typed);
    expect(document.querySelector("[data-option=name] .wrong")?.textContent).toBe("Too long");
    renew(article(), other(page("blue")));
    expect(document.querySelector(".wrong")).toBeNull();
  });

  it("keeps what was typed where a part comes or goes", () => {
    const typed = document.querySelector("[name=name]") as HTMLInputElement;
    typed.value = "Anna";
    renew(
      article(),
      other(
        page("blue").replace(
          '<div data-part="to_basket"',
          '<p data-part="stock">Few left</p><div data-part="to_basket"',
        ),
      ),
    );
    expect(document.querySelector("[data-part=stock]")?.textContent).toBe("Few left");
    expect((document.querySelector("[name=name]") as HTMLInputElement).value).toBe("Anna");
  });

  it("takes the last answer, whatever comes when", async () => {
    const answers: ((html: string) => void)[] = [];
    vi.stubGlobal(
      "fetch",
      () => new Promise((done) => answers.push((html) => done({ ok: true, text: async () => html }))),
    );
    choosing(document);
    const pick = (value: string) => {
      const input = document.querySelector(`[value=${value}]`) as HTMLInputElement;
      input.checked = true;
      input.dispatchEvent(new Event("change", { bubbles: true }));
    };
    pick("blue");
    pick("red");
    answers[1]?.(page("red"));
    answers[0]?.(page("blue"));
    await vi.waitFor(() => expect(window.location.search).toBe("?colour=red"));
    expect(document.querySelector("[data-part=price]")?.textContent).toBe("€40");
    expect((document.querySelector("[data-plain]") as HTMLElement).hidden).toBe(true);
    vi.unstubAllGlobals();
  });

  it("shows a swatch's picture on its card while it is in focus", () => {
    document.body.innerHTML =
      '<article class="card"><div class="part-pictures"><img src="/a.webp"></div><ul class="range"><li><a href="#" data-pictured="/b.webp">Red</a></li></ul></article>';
    choosing(document);
    const [link, image] = [
      document.querySelector("a") as HTMLElement,
      document.querySelector("img") as HTMLImageElement,
    ];
    link.dispatchEvent(new Event("focusin", { bubbles: true }));
    expect(image.src).toContain("/b.webp");
    link.dispatchEvent(new Event("focusout", { bubbles: true }));
    expect(image.src).toContain("/a.webp");
  });

  it("says how many lines the basket has", () => {
    document.body.innerHTML = "<a>Basket<span data-count></span></a>";
    // biome-ignore lint/suspicious/noDocumentCookie: the shop writes it as any browser has it
    document.cookie = "basket_lines=3";
    basketCount();
    expect(document.body.textContent).toBe("Basket 3");
  });

  it("narrows a long list by what is typed, also when its values are put in anew", () => {
    const long = (checked: string) =>
      `<article><form id="buy" data-buy="/shop/p/book"></form><div data-part="options"><fieldset class="option" data-option="colour" data-picked><input type="search" data-find hidden><p data-none hidden></p><div class="choices">${["Fen Green", "Fen Grey", "Rust"].map((words) => `<label class="choice"><input type="radio" name="colour" form="buy" value="${words}"${words === checked ? " checked" : ""}>${words}</label>`).join("")}</div></fieldset></div></article>`;
    document.body.innerHTML = long("");
    choosing(document);
    const shown = () =>
      [...document.querySelectorAll<HTMLElement>(".choice")].filter(({ hidden }) => !hidden).map((e) => e.textContent);
    const look = (words: string) => {
      const box = document.querySelector("[data-find]") as HTMLInputElement;
      box.value = words;
      box.dispatchEvent(new Event("input", { bubbles: true }));
    };
    expect((document.querySelector("[data-find]") as HTMLElement).hidden).toBe(false);
    look("fen");
    expect(shown()).toEqual(["Fen Green", "Fen Grey"]);
    renew(article(), other(long("Fen Grey")));
    expect(shown()).toEqual(["Fen Green", "Fen Grey"]);
    expect((document.querySelector("[data-find]") as HTMLInputElement).value).toBe("fen");
    look("marsh");
    expect(shown()).toEqual([]);
    expect((document.querySelector("[data-none]") as HTMLElement).hidden).toBe(false);
  });
});

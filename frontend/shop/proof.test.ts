import { describe, expect, it } from "vitest";
import { wordsByMark } from "./proof";

function page(text: string): HTMLElement {
  const main = document.createElement("main");
  main.innerHTML = `<p data-field="price" data-block="price" class="lit">€9</p>
    <article data-product="1"><a href="/a"></a><span data-field="title" data-block="title">${text}</span></article>
    <article data-product="2"><a href="/b"></a><span data-field="title" data-block="title">Other</span></article>`;
  return main;
}

describe("what a page says", () => {
  it("tells entries by field, block and card, whatever is lit", () => {
    const before = wordsByMark(page("Old"));
    const now = wordsByMark(page("New"));
    const changed = [...now.keys()].filter((name) => before.get(name) !== now.get(name));
    expect(changed).toEqual(["title title 1"]);
  });
});

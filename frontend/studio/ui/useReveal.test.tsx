import { render } from "@testing-library/react";
import { useRef } from "react";
import { expect, it, vi } from "vitest";
import { furnish } from "../testing";
import { useReveal } from "./useReveal";

function List({ at, rows }: { at: string | null; rows: string[] }) {
  const list = useRef<HTMLUListElement>(null);
  useReveal(list, at, rows.length > 0);
  return (
    <ul ref={list}>
      {rows.map((row) => (
        <li key={row} data-mark={row} />
      ))}
    </ul>
  );
}

furnish();

it("brings what is open into sight once it is there, and leaves the reader alone after", () => {
  const seen: (string | undefined)[] = [];
  Element.prototype.scrollIntoView = vi.fn(function (this: HTMLElement) {
    seen.push(this.dataset.mark);
  });
  const { rerender } = render(<List at="wood" rows={[]} />);
  expect(seen).toEqual([]);
  rerender(<List at="wood" rows={["hair", "wood"]} />);
  rerender(<List at="wood" rows={["hair", "wood", "zinc"]} />);
  expect(seen).toEqual(["wood"]);
  rerender(<List at="zinc" rows={["hair", "wood", "zinc"]} />);
  rerender(<List at={null} rows={["hair", "wood", "zinc"]} />);
  expect(seen).toEqual(["wood", "zinc"]);
});

import { act, fireEvent, render, screen, waitFor } from "@testing-library/react";
import { useRef, useState } from "react";
import { describe, expect, it, vi } from "vitest";
import "../testing";
import { FindBox } from "./FindBox";

const NAMES = ["Fen", "Ferry", "Marsh"];

/** A list that follows the box a moment late, as an address does. */
function Finds({ late = 0, open, server = false }: { late?: number; open: (name: string) => void; server?: boolean }) {
  const [text, setText] = useState("");
  const [answered, setAnswered] = useState("");
  const list = useRef<HTMLUListElement>(null);
  return (
    <>
      <FindBox
        label="Find"
        text={text}
        onText={(next) => setTimeout(() => setText(next), late)}
        list={list}
        settled={!server || answered === text}
      />
      <button type="button" onClick={() => setAnswered(text)}>
        answer
      </button>
      <button type="button" onClick={() => setText("from outside")}>
        outside
      </button>
      <ul ref={list}>
        {NAMES.filter((name) => name.toLowerCase().includes((server ? answered : text).toLowerCase())).map((name) => (
          <li key={name}>
            <button type="button" data-item onClick={() => open(name)}>
              {name}
            </button>
          </li>
        ))}
      </ul>
    </>
  );
}
const box = () => screen.getByLabelText<HTMLInputElement>("Find");
const type = (text: string) => fireEvent.change(box(), { target: { value: text } });

describe("a box to find by", () => {
  it("keeps every letter, however late the address follows", async () => {
    render(<Finds late={40} open={() => undefined} />);
    box().focus();
    for (const text of ["f", "fe", "fer"]) type(text);
    expect(box().value).toBe("fer");
    await waitFor(() => expect(screen.queryByText("Fen")).toBeNull());
    expect(box().value).toBe("fer");
  });

  it("takes what the address says while nobody types in it", async () => {
    render(<Finds open={() => undefined} />);
    fireEvent.click(screen.getByText("outside"));
    await waitFor(() => expect(box().value).toBe("from outside"));
    box().focus();
    type("x");
    fireEvent.click(screen.getByText("outside"));
    await act(async () => undefined);
    expect(box().value).toBe("x");
  });

  it("opens the first of what is found at Enter, once it is found", async () => {
    const open = vi.fn();
    render(<Finds server open={open} />);
    box().focus();
    type("fer");
    fireEvent.keyDown(box(), { key: "Enter" });
    await act(async () => new Promise((done) => setTimeout(done, 20)));
    expect(open, "what is found is not known yet").not.toHaveBeenCalled();
    fireEvent.click(screen.getByText("answer"));
    await waitFor(() => expect(open.mock.calls).toEqual([["Ferry"]]));
  });

  it("goes into the list by the arrow, is reached by / and left by Esc", async () => {
    render(<Finds open={() => undefined} />);
    fireEvent.keyDown(document.body, { key: "/" });
    expect(document.activeElement).toBe(box());
    fireEvent.keyDown(box(), { key: "ArrowDown" });
    expect(document.activeElement?.textContent).toBe("Fen");
    box().focus();
    type("m");
    fireEvent.keyDown(box(), { key: "Escape" });
    expect(document.activeElement).not.toBe(box());
    expect(box().value).toBe("m");
  });
});

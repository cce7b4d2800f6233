import { act, fireEvent, render, screen } from "@testing-library/react";
import { afterEach, beforeEach, describe, expect, it, vi } from "vitest";
import { leaveAsItWas } from "./leaving";
import { TextBox } from "./TextBox";

beforeEach(() => {
  vi.useFakeTimers();
});
afterEach(() => {
  vi.useRealTimers();
  document.body.innerHTML = "";
});

function shown() {
  return screen.getByLabelText<HTMLInputElement>("box");
}
function type(text: string) {
  fireEvent.change(shown(), { target: { value: text } });
}

describe("a text box", () => {
  it("commits when it is left, once", () => {
    const commit = vi.fn();
    render(<TextBox aria-label="box" value="a" onCommit={commit} />);
    type("ab");
    expect(commit).not.toHaveBeenCalled();
    fireEvent.blur(shown());
    fireEvent.blur(shown());
    expect(commit.mock.calls).toEqual([["ab"]]);
  });
  it("commits at Enter, and after a pause", () => {
    const commit = vi.fn();
    render(<TextBox aria-label="box" value="" onCommit={commit} />);
    type("a");
    fireEvent.keyDown(shown(), { key: "Enter" });
    type("ab");
    act(() => vi.advanceTimersByTime(3000));
    expect(commit.mock.calls).toEqual([["a"], ["ab"]]);
  });
  it("commits what was typed when it goes away", () => {
    const commit = vi.fn();
    const { unmount } = render(<TextBox aria-label="box" value="" onCommit={commit} />);
    type("last words");
    unmount();
    expect(commit.mock.calls).toEqual([["last words"]]);
  });
  it("Esc puts back what was there", () => {
    const commit = vi.fn();
    render(<TextBox aria-label="box" value="a" onCommit={commit} />);
    type("abc");
    fireEvent.keyDown(shown(), { key: "Escape" });
    fireEvent.blur(shown());
    expect(shown().value).toBe("a");
    expect(commit).not.toHaveBeenCalled();
  });
  it("keeps what was typed when its change was left, without making it, until one asks again", () => {
    const commit = vi.fn();
    const { rerender } = render(<TextBox aria-label="box" value="a" onCommit={commit} />);
    type("ab");
    fireEvent.blur(shown());
    act(leaveAsItWas);
    expect(shown().value).toBe("ab");
    fireEvent.blur(shown());
    act(() => vi.advanceTimersByTime(3000));
    expect(commit.mock.calls).toEqual([["ab"]]);
    fireEvent.keyDown(shown(), { key: "Enter" });
    expect(commit.mock.calls).toEqual([["ab"], ["ab"]]);
    rerender(<TextBox aria-label="box" value="a" wrong onCommit={commit} />);
    type("none");
    fireEvent.blur(shown());
    act(leaveAsItWas);
    expect(shown().value).toBe("none");
    expect(screen.queryByText(/Not changed/), "what was refused says so itself").toBeNull();
  });
  it("takes what comes from outside, but not over what is being typed", () => {
    const commit = vi.fn();
    const { rerender } = render(<TextBox aria-label="box" value="a" onCommit={commit} />);
    rerender(<TextBox aria-label="box" value="b" onCommit={commit} />);
    expect(shown().value).toBe("b");
    type("bc");
    rerender(<TextBox aria-label="box" value="z" onCommit={commit} />);
    expect(shown().value).toBe("bc");
    expect(screen.getByText(/“z” was written here meanwhile/)).toBeTruthy();
    fireEvent.blur(shown());
    act(() => vi.advanceTimersByTime(3000));
    expect(commit, "nothing is written over it unseen").not.toHaveBeenCalled();
    fireEvent.click(screen.getByText("Write yours over it"));
    expect(commit.mock.calls).toEqual([["bc"]]);
    expect(screen.queryByText(/meanwhile/)).toBeNull();
  });
  it("keeps what another wrote when asked to", () => {
    const commit = vi.fn();
    const { rerender } = render(<TextBox aria-label="box" value="a" onCommit={commit} />);
    type("ab");
    rerender(<TextBox aria-label="box" value="" onCommit={commit} />);
    fireEvent.click(screen.getByText("Keep that"));
    fireEvent.blur(shown());
    expect(shown().value).toBe("");
    expect(commit).not.toHaveBeenCalled();
    type("c");
    rerender(<TextBox aria-label="box" value="d" onCommit={commit} />);
    fireEvent.keyDown(shown(), { key: "Escape" });
    expect(shown().value).toBe("d");
    expect(screen.queryByText(/meanwhile/)).toBeNull();
  });
  it("takes the answer to its own words for its own, however it reads, and then listens again", async () => {
    let answered: () => void = () => undefined;
    const commit = vi.fn(() => new Promise<void>((resolve) => (answered = resolve)));
    const { rerender } = render(<TextBox aria-label="box" value="a" onCommit={commit} />);
    type("6,5");
    fireEvent.blur(shown());
    type("6,51");
    rerender(<TextBox aria-label="box" value="6.5 kg" onCommit={commit} />);
    expect(screen.queryByText(/meanwhile/)).toBeNull();
    await act(async () => answered());
    rerender(<TextBox aria-label="box" value="7 kg" onCommit={commit} />);
    expect(screen.getByText(/“7 kg” was written here meanwhile/)).toBeTruthy();
  });
});

import { act, fireEvent, render, renderHook, screen, within } from "@testing-library/react";
import { useRef } from "react";
import { describe, expect, it, vi } from "vitest";
import { furnish, here, show } from "../testing";
import { useAddress, usePutAddress } from "./address";
import { Button, Dialog, Empty, FillBar, Line, Segments, Weft } from "./basics";
import { type Mark, Selvedge } from "./Selvedge";
import { SortableList, SortableRow } from "./Sortable";
import { PaneHead, PaneTabs, Split } from "./Split";
import { useGrowing } from "./useGrowing";

describe("basics", () => {
  it("choose one of a few", () => {
    const chosen = vi.fn();
    render(
      <Segments
        label="Width"
        value="phone"
        choices={[
          ["phone", "Phone"],
          ["tablet", "Tablet"],
        ]}
        onChoose={chosen}
      />,
    );
    const group = within(screen.getByRole("group", { name: "Width" }));
    expect(group.getByText("Phone").getAttribute("aria-pressed")).toBe("true");
    fireEvent.click(group.getByText("Tablet"));
    expect(chosen).toHaveBeenCalledWith("tablet");
  });

  it("label their controls, and say what is wrong instead of the note", () => {
    const { rerender } = render(
      <Line label="Name" note="A few words">
        {(id) => <input id={id} />}
      </Line>,
    );
    expect(screen.getByLabelText("Name")).toBeTruthy();
    expect(screen.getByText("A few words")).toBeTruthy();
    rerender(
      <Line label="Name" note="A few words" wrong="Too long">
        {(id) => <input id={id} />}
      </Line>,
    );
    expect(screen.getByRole("alert").textContent).toBe("Too long");
    expect(screen.queryByText("A few words")).toBeNull();
  });

  it("say what belongs in an empty place, with the first step", () => {
    const go = vi.fn();
    render(
      <Empty title="No sets" action={<Button onClick={go}>Make one</Button>}>
        Sets group fields.
      </Empty>,
    );
    fireEvent.click(screen.getByText("Make one"));
    expect(go).toHaveBeenCalled();
  });

  it("leave a dialog by Esc, but not one that must be answered", () => {
    const leave = vi.fn();
    const { rerender } = render(
      <Dialog open onClose={leave} title="Sure">
        text
      </Dialog>,
    );
    fireEvent.keyDown(screen.getByRole("dialog"), { key: "Escape" });
    expect(leave).toHaveBeenCalledTimes(1);
    rerender(
      <Dialog open fixed onClose={leave} title="Sure">
        text
      </Dialog>,
    );
    fireEvent.keyDown(screen.getByRole("dialog"), { key: "Escape" });
    expect(leave).toHaveBeenCalledTimes(1);
  });

  it("tell states by pattern, and shares by length", () => {
    const { container } = render(
      <>
        <Weft state="hidden" />
        <FillBar share={20} />
        <FillBar share={90} />
      </>,
    );
    expect(container.querySelector(".weft.hidden-here")).toBeTruthy();
    expect(container.querySelectorAll(".fillbar.low")).toHaveLength(1);
  });
});

function Address() {
  const [one, put] = useAddress("one");
  const putMany = usePutAddress();
  return (
    <>
      <b>{one ?? "none"}</b>
      <Button onClick={() => put("a b")}>one</Button>
      <Button onClick={() => put(null)}>off</Button>
      <Button onClick={() => putMany({ one: "x", two: "y", old: null, empty: "" })}>many</Button>
    </>
  );
}

describe("the address", () => {
  it("holds the state, and leaves the rest alone", () => {
    show(<Address />, "/define?old=1&stay=1");
    expect(screen.getByText("none")).toBeTruthy();
    fireEvent.click(screen.getByText("one"));
    expect(screen.getByText("a b")).toBeTruthy();
    expect(here()).toBe("/define?old=1&stay=1&one=a+b");
    fireEvent.click(screen.getByText("many"));
    expect(here()).toBe("/define?stay=1&one=x&two=y");
    fireEvent.click(screen.getByText("off"));
    expect(here()).toBe("/define?stay=1&two=y");
  });
});

const parts = [
  { id: "all", min: 100, start: "60", children: <p>the sheet</p> },
  { id: "pane", min: 100, start: "40", folds: "Proof", children: <p>the pane</p> },
];

describe("panes", () => {
  it("stand beside the sheet where there is room", () => {
    show(<Split id="s" parts={parts} />);
    expect(screen.getByText("the pane")).toBeTruthy();
    expect(screen.queryByRole("button", { name: /Proof/ })).toBeNull();
    expect(screen.getByRole("separator", { name: "Width of pane" })).toBeTruthy();
  });

  it("fold away where there is little, and come out by their strip or a key", () => {
    furnish(true);
    show(<Split id="s" parts={parts} />);
    const strip = screen.getByRole("button", { name: /Proof/ });
    expect(strip.getAttribute("aria-expanded")).toBe("false");
    expect(screen.queryByText("the pane")).toBeNull();
    fireEvent.click(strip);
    expect(screen.getByText("the pane")).toBeTruthy();
    expect(here()).toBe("/?unfold=1");
    fireEvent.keyDown(window, { key: "Escape" });
    expect(screen.queryByText("the pane")).toBeNull();
    fireEvent.keyDown(window, { key: "h" });
    expect(here()).toBe("/?unfold=1&pane=history");
  });

  it("come out when a reason is asked for", () => {
    furnish(true);
    show(<Split id="s" parts={parts} />, "/?why=title");
    expect(screen.getByText("the pane")).toBeTruthy();
  });

  it("have a head and tabs", () => {
    const chosen = vi.fn();
    render(
      <>
        <PaneHead title="Hair" note="ss_hair" />
        <PaneTabs
          label="Of this"
          value="use"
          tabs={[
            ["use", "Use"],
            ["proof", "Proof"],
          ]}
          onChoose={chosen}
        />
      </>,
    );
    expect(screen.getByRole("heading", { name: "Hair" })).toBeTruthy();
    expect(screen.getByRole("tab", { name: "Use" }).getAttribute("aria-selected")).toBe("true");
    fireEvent.click(screen.getByRole("tab", { name: "Proof" }));
    expect(chosen).toHaveBeenCalledWith("proof");
  });
});

describe("a list in an order", () => {
  it("is put in another by Alt and an arrow on the grip, never by the arrow alone", () => {
    const step = vi.fn();
    render(
      <SortableList ids={["a", "b"]} onMove={() => undefined}>
        <SortableRow id="a" name="Ash" onStep={step}>
          Ash
        </SortableRow>
        <SortableRow id="b" name="Elm" onStep={step} disabled>
          Elm
        </SortableRow>
      </SortableList>,
    );
    const grip = screen.getByRole("button", { name: /Move Ash/ });
    fireEvent.keyDown(grip, { key: "ArrowDown" });
    expect(step).not.toHaveBeenCalled();
    fireEvent.keyDown(grip, { key: "ArrowDown", altKey: true });
    fireEvent.keyDown(grip, { key: "ArrowUp", altKey: true });
    expect(step.mock.calls).toEqual([[1], [-1]]);
    expect(screen.queryByRole("button", { name: /Move Elm/ })).toBeNull();
  });
});

describe("a long list", () => {
  it("shows a first part, and more when its end comes into sight", () => {
    let seen: (entries: { isIntersecting: boolean }[]) => void = () => undefined;
    vi.stubGlobal(
      "IntersectionObserver",
      class {
        constructor(hear: typeof seen) {
          seen = hear;
        }
        observe() {}
        disconnect() {}
      },
    );
    const { result, rerender } = renderHook(
      ({ count }) => {
        const growing = useGrowing(count, 10);
        (growing[1] as { current: HTMLDivElement }).current = document.createElement("div");
        return growing[0];
      },
      { initialProps: { count: 25 } },
    );
    expect(result.current).toBe(10);
    act(() => seen([{ isIntersecting: false }]));
    expect(result.current).toBe(10);
    act(() => seen([{ isIntersecting: true }]));
    expect(result.current).toBe(20);
    act(() => seen([{ isIntersecting: true }]));
    expect(result.current).toBe(25);
    rerender({ count: 4 });
    expect(result.current).toBe(4);
  });
});

function Sheet({ marks }: { marks: Mark[] }) {
  const sheet = useRef<HTMLDivElement>(null);
  return (
    <>
      <div ref={sheet}>
        <div data-mark="hair">
          <input aria-label="Hair" />
        </div>
      </div>
      <Selvedge sheet={sheet} marks={marks} />
    </>
  );
}

describe("the selvedge", () => {
  it("has a tick for each row that needs a look, and leads there", () => {
    render(
      <Sheet
        marks={[
          { id: "hair", wrong: true, text: "Hair is required" },
          { id: "gone", wrong: false, text: "not here" },
        ]}
      />,
    );
    fireEvent.click(screen.getByRole("button", { name: "Hair is required" }));
    expect(document.activeElement).toBe(screen.getByLabelText("Hair"));
    expect(screen.queryByRole("button", { name: "not here" })).toBeNull();
  });
});

import { fireEvent, render, screen, waitFor } from "@testing-library/react";
import { useState } from "react";
import { createMemoryRouter, Link, Outlet, RouterProvider } from "react-router";
import { describe, expect, it, vi } from "vitest";
import { useUnwritten } from "../state/unwritten";
import "../testing";
import { Leaving } from "./Leaving";

const make = vi.fn(async () => true);

function Tries() {
  const [tried, setTried] = useState(false);
  useUnwritten(tried ? { title: "1 change is tried and not made", make, drop: () => setTried(false) } : null);
  return (
    <>
      <button type="button" onClick={() => setTried(true)}>
        try
      </button>
      <Link to="/here?block=a">a block</Link>
      <Link to="/there">elsewhere</Link>
    </>
  );
}

function open() {
  const router = createMemoryRouter(
    [
      {
        element: (
          <>
            <Outlet />
            <Leaving />
          </>
        ),
        children: [
          { path: "/here", element: <Tries /> },
          { path: "/there", element: <p>There</p> },
        ],
      },
    ],
    { initialEntries: ["/here"] },
  );
  render(<RouterProvider router={router} />);
  return router;
}

describe("leaving a view", () => {
  it("is not asked about where nothing is tried", async () => {
    open();
    fireEvent.click(screen.getByText("elsewhere"));
    expect(await screen.findByText("There")).toBeTruthy();
  });

  it("is asked about where something is: stay, or make it", async () => {
    const router = open();
    fireEvent.click(screen.getByText("try"));
    fireEvent.click(screen.getByText("a block"));
    await waitFor(() => expect(router.state.location.search).toBe("?block=a"));
    fireEvent.click(screen.getByText("elsewhere"));
    expect(await screen.findByText("1 change is tried and not made")).toBeTruthy();
    fireEvent.click(screen.getByText("Stay here"));
    await waitFor(() => expect(screen.queryByRole("dialog")).toBeNull());
    expect(screen.getByText("try")).toBeTruthy();
    const reload = new Event("beforeunload", { cancelable: true });
    window.dispatchEvent(reload);
    expect(reload.defaultPrevented).toBe(true);
    fireEvent.click(screen.getByText("elsewhere"));
    fireEvent.click(await screen.findByText("Make it so and leave"));
    expect(await screen.findByText("There")).toBeTruthy();
    expect(make).toHaveBeenCalledTimes(1);
  });

  it("stays where what is tried is refused", async () => {
    make.mockClear();
    make.mockResolvedValueOnce(false);
    open();
    fireEvent.click(screen.getByText("try"));
    fireEvent.click(screen.getByText("elsewhere"));
    fireEvent.click(await screen.findByText("Make it so and leave"));
    await waitFor(() => expect(screen.queryByRole("dialog")).toBeNull());
    expect(screen.getByText("try")).toBeTruthy();
  });

  it("drops what is tried when one says so", async () => {
    make.mockClear();
    open();
    fireEvent.click(screen.getByText("try"));
    fireEvent.click(screen.getByText("elsewhere"));
    fireEvent.click(await screen.findByText("Drop and leave"));
    expect(await screen.findByText("There")).toBeTruthy();
    expect(make).not.toHaveBeenCalled();
    const reload = new Event("beforeunload", { cancelable: true });
    window.dispatchEvent(reload);
    expect(reload.defaultPrevented).toBe(false);
  });
});

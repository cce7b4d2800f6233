import { useQuery } from "@tanstack/react-query";
import { fireEvent, screen, waitFor } from "@testing-library/react";
import { describe, expect, it } from "vitest";
import { client, data } from "../api/client";
import { Refusal, serve, show } from "../testing";
import { Opening } from "./Opening";

function View() {
  const found = useQuery({ queryKey: ["lists"], queryFn: () => data(client.GET("/api/value_lists")) }).data;
  return found ? <p>there</p> : <Opening />;
}

describe("what is not there yet", () => {
  it("says so after a moment, and goes when it is", async () => {
    let answer: (value: unknown) => void = () => undefined;
    serve({ "GET /api/value_lists": () => new Promise((done) => (answer = done)) });
    show(<View />);
    expect(screen.queryByText("Opening…")).toBeNull();
    expect(await screen.findByText("Opening…")).toBeTruthy();
    answer({ things: [] });
    expect(await screen.findByText("there")).toBeTruthy();
  });

  it("says why it can't be opened, and asks again", async () => {
    let refused = true;
    serve({
      "GET /api/value_lists": () =>
        refused ? new Refusal(503, "away", { message: "The database is away" }) : { things: [] },
    });
    show(<View />);
    expect((await screen.findByRole("alert")).textContent).toBe("It can't be opened: The database is away");
    refused = false;
    fireEvent.click(screen.getByText("Try again"));
    await waitFor(() => expect(screen.getByText("there")).toBeTruthy());
  });
});

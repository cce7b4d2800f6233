import { useQuery } from "@tanstack/react-query";
import { act, fireEvent, screen, waitFor } from "@testing-library/react";
import { useNavigate } from "react-router";
import { describe, expect, it, vi } from "vitest";
import { thingAt } from "../api/nouns";
import { concerns, isOf } from "../state/news";
import { serve, show } from "../testing";
import { BesideYou, named } from "./BesideYou";

const item = (id: number, noun: string, key: string, more: object = {}) => ({
  id,
  by: "Mara",
  mine: false,
  nouns: [noun],
  things: [{ noun, key, version: 2 }],
  ...more,
});

function Shows({ question }: { question: unknown[] }) {
  const go = useNavigate();
  const shown = useQuery({ queryKey: question, queryFn: () => fetch(new Request("http://localhost/asked")) });
  return (
    <>
      <button type="button" onClick={() => go("/fill/products/4")}>
        go
      </button>
      {shown.isSuccess && "there"}
    </>
  );
}

describe("news", () => {
  it("of what is open has it asked anew, says who wrote it and who is there too, and is heard once", async () => {
    const news = vi.fn();
    const asked = serve({
      "POST /api/news": (request: { body: unknown }) => {
        news(request.body);
        const items = news.mock.calls.length > 1 ? [item(7, "field", "ss_hair")] : [];
        return { mark: 40 + news.mock.calls.length, missed: false, items, people: ["Mara"] };
      },
      "GET /asked": {},
    });
    show(
      <>
        <BesideYou />
        <Shows question={["things", "field"]} />
      </>,
      "/define/fields/ss_hair",
    );
    await screen.findByText("Mara is here too");
    expect(news.mock.calls[0]?.[0]).toMatchObject({ noun: "field", key: "ss_hair", since: null });
    await screen.findByText(/Mara changed this/, {}, { timeout: 30_000 });
    expect(news.mock.calls[1]?.[0]).toMatchObject({ since: 41 });
    await waitFor(() => expect(asked.filter(({ path }) => path === "/asked")).toHaveLength(2));
    await waitFor(() => expect(news.mock.calls.length).toBeGreaterThan(3), { timeout: 30_000 });
    expect(asked.filter(({ path }) => path === "/asked")).toHaveLength(2);
    fireEvent.click(screen.getByText("go"));
    await waitFor(() => expect(screen.queryByText(/Mara changed this/)).toBeNull());
    expect(asked.every(({ headers, method }) => method === "GET" || headers.get("X-Window"))).toBe(true);
  }, 90_000);

  it("is listened for again after the server could not be reached", async () => {
    let calls = 0;
    serve({
      "POST /api/news": () => {
        calls += 1;
        if (calls === 1) throw new TypeError("away");
        return { mark: 1, missed: false, items: [], people: [] };
      },
    });
    show(<BesideYou />, "/define/fields/ss_hair");
    await waitFor(() => expect(calls).toBe(2), { timeout: 30_000 });
    await act(async () => undefined);
  }, 60_000);

  it("concerns the questions of a product that name it, and no others", () => {
    const of = (...queryKey: unknown[]) => concerns({ queryKey }, [item(1, "product", "4") as never]);
    expect(of("product", 4)).toBe(true);
    expect(of("why", { product: 4 }, "ss_hair", "product_page")).toBe(true);
    expect(of("product", 5)).toBe(false);
    expect(of("counts")).toBe(false);
    expect(concerns({ queryKey: ["variants", 4] }, [item(1, "variant", "4/12") as never])).toBe(true);
    expect(concerns({ queryKey: ["product", 4] }, [item(1, "product", "4", { things: null }) as never])).toBe(false);
  });

  it("is of the open thing by its noun and key; what a product has of its own is its", () => {
    expect(isOf(item(1, "field", "ss_hair") as never, "field", "ss_hair")).toBe(true);
    expect(isOf(item(1, "layout", "ss_hair") as never, "field", "ss_hair")).toBe(false);
    expect(isOf(item(1, "variant_stock", "4/8") as never, "product", "4")).toBe(true);
    expect(isOf(item(1, "field", "4") as never, "product", "4")).toBe(false);
  });

  it("knows what is open by the path", () => {
    expect(thingAt("/define/fields/ss_hair")).toEqual({ noun: "field", key: "ss_hair" });
    expect(thingAt("/fill/products/12")).toEqual({ noun: "product", key: "12" });
    expect(thingAt("/present/layouts/~own")).toBeNull();
    expect(thingAt("/define/fields")).toBeNull();
    expect(thingAt("/release/changes")).toBeNull();
  });

  it("names two people and counts the rest", () => {
    expect(named(["Mara"])).toBe("Mara is");
    expect(named(["Mara", "Ben"])).toBe("Mara and Ben are");
    expect(named(["Mara", "Ben", "Ida", "Tom"])).toBe("Mara, Ben and 2 more are");
  });
});

import { fireEvent, screen, waitFor } from "@testing-library/react";
import { describe, expect, it } from "vitest";
import type { Things } from "../api/nouns";
import { META, serve, show, writes } from "../testing";
import { useThingsOf } from "./useThingsOf";

const EASELS = {
  thing: { key: "easels", name: "Easels", slug: "easels", parent: null, sets: ["size"], fields: [] },
  version: 4,
} as unknown as Things["product_type"];

function Giver({ sets }: { sets: string[] }) {
  const { put } = useThingsOf("product_type");
  return (
    <>
      {sets.map((set) => (
        <button
          key={set}
          type="button"
          onClick={() => put(EASELS, (thing) => ({ sets: [...thing.sets, set] }), `${set} given`)}
        >
          give {set}
        </button>
      ))}
    </>
  );
}

describe("writing a thing from elsewhere", () => {
  const nothing = {
    types: 0,
    products: 0,
    surfaces: {},
    effects: null,
    moves: { gone: [], come: [] },
    variants: null,
    lines: [],
    exact: true,
  };

  it("begins from the last answer, so that the second write keeps the first and never clashes with it", async () => {
    let version = 4;
    const asked = serve({
      "GET /api/meta": META,
      "POST /api/product_types/easels/consequences": nothing,
      "PATCH /api/product_types/easels": ({ body }: { body: unknown }) => {
        version += 1;
        const { sets } = body as { sets: string[] };
        return { ...EASELS, thing: { ...EASELS.thing, sets }, version };
      },
    });
    show(<Giver sets={["care", "origin"]} />);
    fireEvent.click(screen.getByText("give care"));
    await waitFor(() => expect(writes(asked).filter(([method]) => method === "PATCH")).toHaveLength(1));
    await screen.findByText("give origin");
    fireEvent.click(screen.getByText("give origin"));
    await waitFor(() => expect(writes(asked).filter(([method]) => method === "PATCH")).toHaveLength(2));
    expect(
      writes(asked)
        .filter(([method]) => method === "PATCH")
        .map(([, , body]) => body),
    ).toEqual([
      { sets: ["size", "care"], version: 4 },
      { sets: ["size", "care", "origin"], version: 5 },
    ]);
  });
});

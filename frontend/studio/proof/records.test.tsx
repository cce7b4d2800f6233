import { fireEvent, screen } from "@testing-library/react";
import { describe, expect, it } from "vitest";
import { here, META, serve, show } from "../testing";
import { RecordProof } from "./RecordProof";

const SURFACE = {
  code: "record_page",
  name: "record page",
  counted: ["record page", "record pages"],
  subject: "record",
};
const ANSWERS = {
  "GET /api/meta": { ...META, surfaces: [...META.surfaces, SURFACE] },
  "GET /api/example": { product: null, title: "Fen Mill", record: "fen" },
  "GET /api/why": { shows: true, field_name: "Workshop", title: "Fen Mill", deciders: [], steps: [] },
};

describe("the proof of a record", () => {
  it("is its page from the draft, beside what is live on wish", async () => {
    serve(ANSWERS);
    show(<RecordProof type="maker" />);
    const draft = await screen.findByTitle("The page of a record");
    expect(draft.getAttribute("src")).toBe("/proof/record/fen");
    fireEvent.click(screen.getByText("Live"));
    expect((await screen.findByTitle("The page as it is live")).getAttribute("src")).toBe(
      "/proof/live/record/fen?against=/proof/record/fen",
    );
    expect(here()).toBe("/?live=1");
  });

  it("asks why of the field the weave is on", async () => {
    const asked = serve(ANSWERS);
    show(<RecordProof type="maker" field="ss_place" />);
    expect(await screen.findByText("Why “Workshop” shows on the record page")).toBeTruthy();
    const why = asked.find(({ path }) => path === "/api/why");
    expect(Object.fromEntries(why?.query ?? [])).toEqual({
      record: "fen",
      field: "ss_place",
      surface: "record_page",
      device: "phone",
    });
  });

  it("says what to do when there is no record", async () => {
    serve({ ...ANSWERS, "GET /api/example": { product: null, title: "", record: null } });
    show(<RecordProof type="maker" />);
    expect(await screen.findByText("No record to prove with")).toBeTruthy();
  });
});

import { describe, expect, it } from "vitest";
import { Refusal, serve } from "../testing";
import { client, data, Refused, session, uploadPicture } from "./client";

describe("questions to the server", () => {
  it("carry the token when they write, and only then", async () => {
    session.csrf = "t0k3n";
    const asked = serve({ "GET /api/counts": {}, "POST /api/undo": {} });
    await data(client.GET("/api/counts"));
    await data(client.POST("/api/undo"));
    expect(asked.map((request) => request.headers.get("X-CSRF-Token"))).toEqual([null, "t0k3n"]);
  });

  it("give the refusal in its one shape", async () => {
    serve({ "POST /api/undo": new Refusal(422, "nothing_to_undo", { where: ["x"] }) });
    const refused = await data(client.POST("/api/undo")).catch((error) => error);
    expect(refused).toBeInstanceOf(Refused);
    expect([refused.status, refused.problem.code, refused.problem.where]).toEqual([422, "nothing_to_undo", ["x"]]);
  });

  it("say in plain words when the server can't be reached", async () => {
    serve({});
    const refused = await data(client.GET("/api/counts")).catch((error) => error);
    expect([refused.status, refused.problem.code]).toEqual([0, "offline"]);
    expect(refused.problem.help).toContain("stays here");
  });

  it("wait for signing in again, then go once more with what they held", async () => {
    let signedIn = false;
    const asked = serve({
      "POST /api/products": () => (signedIn ? { id: 7 } : new Refusal(401, "signed_out")),
    });
    session.onSignedOut = async () => {
      signedIn = true;
      session.csrf = "fresh";
    };
    const made = await data(client.POST("/api/products", { body: { type: "ink", title: "Sepia" } }));
    session.onSignedOut = null;
    expect(made).toEqual({ id: 7 });
    expect(asked.map((request) => request.body)).toEqual([
      { type: "ink", title: "Sepia" },
      { type: "ink", title: "Sepia" },
    ]);
    expect(asked[1]?.headers.get("X-CSRF-Token")).toBe("fresh");
  });

  it("do not ask to sign in again for a refused password", async () => {
    session.onSignedOut = async () => {
      throw new Error("asked");
    };
    serve({ "POST /api/session": new Refusal(401, "sign_in") });
    const refused = await data(client.POST("/api/session", { body: { email: "a", password: "b" } })).catch((e) => e);
    session.onSignedOut = null;
    expect(refused.problem.code).toBe("sign_in");
  });
});

describe("a picture", () => {
  const file = new File(["x"], "jar.png", { type: "image/png" });
  it("is sent as a file", async () => {
    const asked = serve({ "POST /api/pictures": { file: "a", width: 1, height: 2 } });
    expect(await uploadPicture(file)).toEqual({ file: "a", width: 1, height: 2 });
    expect(asked[0]?.headers.get("Content-Type")).toContain("multipart/form-data");
  });
  it("that is refused says why", async () => {
    serve({ "POST /api/pictures": new Refusal(422, "file_kind") });
    await expect(uploadPicture(file)).rejects.toMatchObject({ problem: { code: "file_kind" } });
  });
});

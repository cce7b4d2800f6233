import createClient from "openapi-fetch";
import type { components, paths } from "./schema";

export type Schemas = components["schemas"];
export type Problem = Schemas["Problem"];

/** A refusal by the server, in its one shape. */
export class Refused extends Error {
  constructor(
    readonly status: number,
    readonly problem: Problem,
  ) {
    super(problem.message);
  }
}

/** This window of the studio: what it writes is news in all others. */
export const WINDOW: string = crypto.randomUUID();

/** Who is signed in; kept up by `session`. */
export const session: { csrf: string; onSignedOut: (() => Promise<void>) | null } = { csrf: "", onSignedOut: null };

/** Asked by nobody's wish: that the session has ended is said when somebody wants something. */
const SILENT = ["/api/session", "/api/news"];

async function send(request: Request): Promise<Response> {
  const spare = request.clone();
  const response = await fetch(withToken(request));
  if (response.status === 401 && session.onSignedOut && !SILENT.some((path) => request.url.endsWith(path))) {
    const problem = (await response
      .clone()
      .json()
      .catch(() => null)) as Problem | null;
    if (problem?.code === "signed_out") {
      await session.onSignedOut();
      return fetch(withToken(spare));
    }
  }
  return response;
}

function withToken(request: Request): Request {
  if (request.method !== "GET") {
    request.headers.set("X-CSRF-Token", session.csrf);
    request.headers.set("X-Window", WINDOW);
  }
  return request;
}

export const client = createClient<paths>({ baseUrl: window.location.origin, fetch: send });

/** The data of an answer; throws Refused when the server refused, in plain words when it can't be reached. */
export async function data<T>(answer: Promise<{ data?: T; error?: unknown; response: Response }>): Promise<T> {
  let got: { data?: T; error?: unknown; response: Response };
  try {
    got = await answer;
  } catch {
    throw new Refused(0, {
      code: "offline",
      message: "The server can't be reached",
      where: [],
      help: "What you typed stays here; try again in a moment",
      also: [],
      clashes: [],
      your_lines: [],
      their_lines: [],
    });
  }
  if (got.response.ok) return got.data as T;
  throw refusedBy(got.response.status, got.error);
}

/** A refusal as the server told it; what stands between us and it answers in other ways. */
export function refusedBy(status: number, answer: unknown): Refused {
  if (answer !== null && typeof answer === "object" && "code" in answer && "message" in answer)
    return new Refused(status, answer as Problem);
  return new Refused(status, {
    code: status === 502 || status === 503 || status === 504 ? "offline" : "unknown_answer",
    message: `The server could not answer (${status})`,
    where: [],
    help: "What you typed stays here; try again in a moment",
    also: [],
    clashes: [],
    your_lines: [],
    their_lines: [],
  });
}

/** Upload one picture. */
export function uploadPicture(file: File): Promise<Schemas["PictureOut"]> {
  return upload("/api/pictures", file);
}

export function uploadFile(file: File): Promise<Schemas["FileOut"]> {
  return upload("/api/files", file);
}

async function upload<Kept>(path: string, file: File): Promise<Kept> {
  const body = new FormData();
  body.append("file", file);
  const response = await send(new Request(`${window.location.origin}${path}`, { method: "POST", body }));
  if (response.ok) return response.json();
  throw refusedBy(response.status, await response.json().catch(() => null));
}

import type { Schemas } from "../api/client";

export type Json = Record<string, unknown>;
export type Join = "all" | "any" | "none";
export type Test = {
  id: string;
  field: string;
  op: string;
  /** As typed or chosen, one a value; what was read before and not touched since is kept as it is. */
  typed: string[];
  words: string[];
  kept?: unknown;
};
export type Group = { id: string; join: Join; parts: Node[] };
export type Node = Test | Group;
export type Asked = Schemas["AskedFieldOut"];
type TestRead = Schemas["ToldTestOut"];

let made = 0;
export function newId(): string {
  made += 1;
  return `c${made}`;
}

export function isGroup(node: Node): node is Group {
  return "join" in node;
}

const JOINS: readonly Join[] = ["all", "any", "none"];

/** A condition as it is kept, as something that can be worked on; the outermost is always a group. */
export function fromTree(tree: Json | null, worded: readonly TestRead[]): Group {
  const words = new Map(worded.map((test) => [JSON.stringify(test.where), test]));
  const node = (branch: Json, where: (string | number)[]): Node => {
    const join = JOINS.find((name) => name in branch);
    if (join) {
      const parts = (branch[join] as Json[]).filter((part) => Object.keys(part).length > 0 || join !== "all");
      return { id: newId(), join, parts: parts.map((part, index) => node(part, [...where, join, index])) };
    }
    const test = words.get(JSON.stringify(where));
    return {
      id: newId(),
      field: String(branch.field),
      op: String(branch.op),
      typed: (test?.typed ?? []).map(asText),
      words: test?.values ?? [],
      kept: branch.value,
    };
  };
  if (!tree || Object.keys(tree).length === 0) return { id: newId(), join: "all", parts: [] };
  const found = node(tree, []);
  return isGroup(found) ? found : { id: newId(), join: "all", parts: [found] };
}

function asText(value: unknown): string {
  if (typeof value === "boolean") return value ? "yes" : "no";
  return typeof value === "object" && value !== null ? JSON.stringify(value) : String(value ?? "");
}

/** How many values a test takes, in a word. */
export function takes(test: Test, fields: readonly Asked[]): string {
  const field = fields.find((field) => field.key === test.field);
  return field?.tests.find((found) => found.op === test.op)?.takes ?? "one";
}

/** Whether a test says all that it has to. */
export function isWhole(test: Test, fields: readonly Asked[]): boolean {
  const wanted = takes(test, fields);
  if (test.kept !== undefined || wanted === "none") return true;
  const filled = test.typed.filter((text) => text.trim() !== "");
  return filled.length >= (wanted === "two" ? 2 : 1);
}

/** The condition as the server takes it, without tests that say too little yet; `places` tells which test stands where. */
export function toTree(
  group: Group,
  fields: readonly Asked[],
): { tree: Json; places: Map<string, string>; count: number } {
  const places = new Map<string, string>();
  let count = 0;
  const walk = (node: Node, where: (string | number)[]): Json | null => {
    if (!isGroup(node)) {
      if (!isWhole(node, fields)) return null;
      places.set(JSON.stringify(where), node.id);
      count += 1;
      return testOf(node, takes(node, fields));
    }
    const parts: Json[] = [];
    for (const part of node.parts) {
      const found = walk(part, [...where, node.join, parts.length]);
      if (found) parts.push(found);
    }
    return parts.length > 0 || where.length === 0 ? { [node.join]: parts } : null;
  };
  return { tree: walk(group, []) ?? { all: [] }, places, count };
}

function testOf(test: Test, wanted: string): Json {
  const said = { field: test.field, op: test.op };
  if (wanted === "none") return said;
  if (test.kept !== undefined) return { ...said, value: test.kept };
  const filled = test.typed.filter((text) => text.trim() !== "");
  return { ...said, typed: wanted === "one" ? (filled[0] ?? "") : filled };
}

/** The tree with one node put in another's stead, or taken away when null; groups left with nothing go with it. */
export function withNode(group: Group, id: string, put: Node | null): Group {
  const parts: Node[] = [];
  for (const part of group.parts) {
    if (part.id === id) {
      if (put) parts.push(put);
    } else if (isGroup(part)) {
      const next = withNode(part, id, put);
      if (next.parts.length > 0 || part.parts.length === 0) parts.push(next);
    } else parts.push(part);
  }
  return { ...group, parts };
}

/** The tree with a node added at the end of a group. */
export function withAdded(group: Group, into: string, node: Node): Group {
  if (group.id === into) return { ...group, parts: [...group.parts, node] };
  return { ...group, parts: group.parts.map((part) => (isGroup(part) ? withAdded(part, into, node) : part)) };
}

export function newTest(field: Asked): Test {
  return { id: newId(), field: field.key, op: field.tests[0]?.op ?? "is", typed: [], words: [] };
}

/** The word between the parts of a group, and what stands over a group inside another. */
export const BETWEEN: Record<Join, string> = { all: "and", any: "or", none: "or" };
export const OVER: Record<Join, string> = { all: "all of these", any: "one of these", none: "none of these" };

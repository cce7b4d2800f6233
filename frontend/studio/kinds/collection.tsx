import { referenceKind } from "./references";

export const collection = referenceKind("collection", {
  what: "collection",
  target: () => ({ noun: "collection", of: "" }),
  opens: "collection",
});

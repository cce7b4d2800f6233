import { referenceKind } from "./references";

export const product = referenceKind("product", {
  what: "product",
  target: () => ({ noun: "product", of: "" }),
  opens: "product",
});

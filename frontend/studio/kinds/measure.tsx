import { typedKind } from "./typed";

export const measure = typedKind(
  "measure",
  {},
  { amounts: true, typed: (value: { amount: string; unit: string }) => `${value.amount} ${value.unit}` },
);

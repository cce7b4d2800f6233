import { typedKind } from "./typed";

export const contents = typedKind(
  "contents",
  {},
  {
    typed: (value: { count: number; amount: string; unit: string }) => `${value.count} × ${value.amount} ${value.unit}`,
  },
);

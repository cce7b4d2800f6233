import { typedKind } from "./typed";

type Rating = { value: string; out_of: string; count: number | null };

export const rating = typedKind(
  "rating",
  {},
  { typed: ({ value, out_of, count }: Rating) => `${value}/${out_of}${count === null ? "" : ` (${count})`}` },
);

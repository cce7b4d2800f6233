import { useQuery } from "@tanstack/react-query";
import { useMemo } from "react";
import type { Schemas } from "../api/client";
import { PRODUCT } from "../api/nouns";
import { ask } from "../api/queries";

export type Surface = Schemas["SurfaceOut"];

/** The surfaces whose pages are of products, or of what a scope such as `record_type:maker` is of. */
export function useSurfaces(scope = ""): Surface[] {
  const all = useQuery(ask.meta()).data?.surfaces;
  const own = scope.startsWith("record_type:");
  return useMemo(() => (all ?? []).filter(({ subject }) => (subject === PRODUCT) !== own), [all, own]);
}

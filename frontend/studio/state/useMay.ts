import { useQuery } from "@tanstack/react-query";
import { ask } from "../api/queries";

/** Whether the person signed in may look, edit or release. */
export function useMay(right: "look" | "edit" | "release"): boolean {
  return useQuery(ask.session()).data?.rights.includes(right) ?? false;
}

import { queryOptions } from "@tanstack/react-query";
import { client, data } from "../../../api/client";

/** The products that are offered a set, after one of them. */
export function askOffered(key: string, after: number) {
  return queryOptions({
    queryKey: ["offered", key, after],
    queryFn: () => data(client.GET("/api/option_sets/{key}/products", { params: { path: { key }, query: { after } } })),
  });
}

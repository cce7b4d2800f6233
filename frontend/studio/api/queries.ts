import { queryOptions } from "@tanstack/react-query";
import { client, data, Refused, type Schemas } from "./client";
import { NOUNS, type NounCode, type Things } from "./nouns";

/** Whether a job is not done yet. */
export function isOpen(job: Schemas["JobOut"] | null | undefined): boolean {
  return job?.state === "waiting" || job?.state === "running";
}

/** What is asked about: a product by number, or a record by key. */
export type About = { product: number } | { record: string };

/** What a question was answered with; nothing where what it is about has gone since. */
export function standing<T>(query: { data: T | undefined; error: Error | null }): T | undefined {
  return query.error instanceof Refused && query.error.status === 404 ? undefined : query.data;
}

/** Query options, one a question. Everything is asked anew after a write. */
export const ask = {
  session: () =>
    queryOptions({ queryKey: ["session"], queryFn: () => data(client.GET("/api/session")), staleTime: Infinity }),
  meta: () => queryOptions({ queryKey: ["meta"], queryFn: () => data(client.GET("/api/meta")), staleTime: Infinity }),
  counts: () =>
    queryOptions({
      queryKey: ["counts"],
      queryFn: () => data(client.GET("/api/counts")),
      refetchInterval: (query) => (isOpen(query.state.data?.job) ? 600 : query.state.data?.judging ? 3000 : false),
    }),
  /** All things of a noun. */
  things: <N extends NounCode>(noun: N) =>
    queryOptions({
      queryKey: ["things", noun],
      queryFn: async () =>
        (await data(client.GET(`/api/${NOUNS[noun].plural}` as "/api/fields"))).things as unknown as Things[N][],
    }),
  sessions: () => queryOptions({ queryKey: ["sessions"], queryFn: () => data(client.GET("/api/session/all")) }),
  typeFields: (key: string) =>
    queryOptions({
      queryKey: ["typeFields", key],
      queryFn: () => data(client.GET("/api/product_types/{key}/fields", { params: { path: { key } } })),
    }),
  product: (number: number) =>
    queryOptions({
      queryKey: ["product", number],
      queryFn: () => data(client.GET("/api/products/{number}", { params: { path: { number } } })),
    }),
  /** All types and fields: who has what. */
  sheet: () => queryOptions({ queryKey: ["sheet"], queryFn: () => data(client.GET("/api/sheet")) }),
  weave: (scope: string) =>
    queryOptions({
      queryKey: ["weave", scope],
      queryFn: () => data(client.GET("/api/weave", { params: { query: { scope } } })),
    }),
  /** All that can be set in a cell of the weave; `*` for a whole row or column. */
  cell: (scope: string, field: string, surface: string) =>
    queryOptions({
      queryKey: ["cell", scope, field, surface],
      queryFn: () => data(client.GET("/api/weave/cell", { params: { query: { scope, field, surface } } })),
    }),
  /** A layout with all its steps taken. */
  layout: (key: string) =>
    queryOptions({
      queryKey: ["layout", key],
      queryFn: () => data(client.GET("/api/layouts/{key}/view", { params: { path: { key } } })),
    }),
  /** What a scope has for itself on a surface, or would have. */
  arrangement: (scope: string, surface: string) =>
    queryOptions({
      queryKey: ["arrangement", scope, surface],
      queryFn: () => data(client.GET("/api/arrangements", { params: { query: { scope, surface } } })),
    }),
  why: (about: About, field: string, surface: string, device?: string) =>
    queryOptions({
      queryKey: ["why", about, field, surface, device],
      queryFn: () => data(client.GET("/api/why", { params: { query: { ...about, field, surface, device } } })),
    }),
  /** The layouts that are the same as one but for words. */
  alikeLayouts: (key: string) =>
    queryOptions({
      queryKey: ["layout", key, "alike"],
      queryFn: () => data(client.GET("/api/layouts/{key}/alike", { params: { path: { key } } })),
    }),
  /** Why a block shows on a page with a layout. */
  whyBlock: (about: About, block: string, surface: string, layout: string, device: string) =>
    queryOptions({
      queryKey: ["why", "block", about, block, surface, layout, device],
      queryFn: () =>
        data(client.GET("/api/why/block", { params: { query: { ...about, block, surface, layout, device } } })),
    }),
  /** Why a product stands on a listing, told by its noun and key. */
  whyListing: (product: number, noun: string, key: string) =>
    queryOptions({
      queryKey: ["why", "listing", product, noun, key],
      queryFn: () => data(client.GET("/api/why/listing", { params: { query: { product, noun, key } } })),
    }),
  missing: (product: number, surface: string, device: string) =>
    queryOptions({
      queryKey: ["missing", product, surface, device],
      queryFn: () => data(client.GET("/api/missing", { params: { query: { product, surface, device } } })),
    }),
  example: (noun: string, key: string) =>
    queryOptions({
      queryKey: ["example", noun, key],
      queryFn: () => data(client.GET("/api/example", { params: { query: { noun, key } } })),
    }),
  /** Products worth proving a field with. */
  examples: (field: string) =>
    queryOptions({
      queryKey: ["examples", field],
      queryFn: () => data(client.GET("/api/examples", { params: { query: { field } } })),
    }),
  pending: () => queryOptions({ queryKey: ["pending"], queryFn: () => data(client.GET("/api/pending")) }),
  differing: (noun: string, key: string) =>
    queryOptions({
      queryKey: ["differing", noun, key],
      queryFn: () => data(client.GET("/api/differing", { params: { query: { noun, key } } })),
    }),
  /** What was otherwise with one release than with another; 0 is before the first. */
  between: (before: number, after: number) =>
    queryOptions({
      queryKey: ["between", before, after],
      queryFn: () => data(client.GET("/api/releases/between", { params: { query: { before, after } } })),
    }),
  /** What is unused, never filled, or looks like another. */
  housekeeping: () =>
    queryOptions({ queryKey: ["housekeeping"], queryFn: () => data(client.GET("/api/housekeeping")) }),
  /** Ready definitions to add. */
  starters: () => queryOptions({ queryKey: ["starters"], queryFn: () => data(client.GET("/api/fields/starters")) }),
  /** What there is to know of the swatches of a value list or an option set. */
  remarks: (noun: "value_list" | "option_set", key: string) =>
    queryOptions({
      queryKey: ["remarks", noun, key],
      queryFn: () =>
        data(
          client.GET(`/api/${NOUNS[noun].plural}/{key}/remarks` as "/api/option_sets/{key}/remarks", {
            params: { path: { key } },
          }),
        ),
    }),
  /** How much each value of a list is used. */
  listUsage: (key: string) =>
    queryOptions({
      queryKey: ["listUsage", key],
      queryFn: () => data(client.GET("/api/value_lists/{key}/usage", { params: { path: { key } } })),
    }),
  /** Which kinds a field's values fit. */
  fits: (key: string) =>
    queryOptions({
      queryKey: ["fits", key],
      queryFn: () => data(client.GET("/api/fields/{key}/fits", { params: { path: { key } } })),
    }),
  /** All that a condition can ask for. */
  askedFields: () =>
    queryOptions({ queryKey: ["askedFields"], queryFn: () => data(client.GET("/api/conditions/fields")) }),
  /** A thing's own fields with their values. */
  ownFields: (noun: NounCode, key: string) =>
    queryOptions({
      queryKey: ["ownFields", noun, key],
      queryFn: () =>
        data(
          client.GET(`/api/${NOUNS[noun].plural}/{key}/values` as "/api/records/{key}/values", {
            params: { path: { key } },
          }),
        ),
    }),
  /** The places that keep their own words in place of a shared copy's. */
  ownWords: (key: string) =>
    queryOptions({
      queryKey: ["ownWords", key],
      queryFn: () => data(client.GET("/api/shared_copies/{key}/places", { params: { path: { key } } })),
    }),
  record: (key: string) =>
    queryOptions({
      queryKey: ["record", key],
      queryFn: () => data(client.GET("/api/records/{key}", { params: { path: { key } } })),
    }),
  /** Things that values can refer to, by some words. */
  references: (noun: string, of: string, words: string) =>
    queryOptions({
      queryKey: ["references", noun, of, words],
      queryFn: () => data(client.GET("/api/references/{noun}", { params: { path: { noun }, query: { of, words } } })),
      placeholderData: (old: Schemas["ReferencesOut"] | undefined) => old,
    }),
  /** The newest changes of a thing. */
  lastChange: (noun: string, key: string) =>
    queryOptions({
      queryKey: ["lastChange", noun, key],
      queryFn: () => data(client.GET("/api/changes", { params: { query: { noun, key } } })),
    }),
  /** What refers to a thing. */
  uses: (noun: NounCode, key: string) =>
    queryOptions({
      queryKey: ["uses", noun, key],
      queryFn: () =>
        data(
          client.GET(`/api/${NOUNS[noun].plural}/{key}/uses` as "/api/fields/{key}/uses", {
            params: { path: { key } },
          }),
        ),
    }),
  /** What a collection brings its products. */
  effect: (key: string) =>
    queryOptions({
      queryKey: ["effect", key],
      queryFn: () => data(client.GET("/api/collections/{key}/effect", { params: { path: { key } } })),
    }),
  /** The keys of other systems, and where the feed is read. */
  keys: () => queryOptions({ queryKey: ["keys"], queryFn: () => data(client.GET("/api/keys")) }),
  /** All long work; while some is open it is asked again and again. */
  jobs: () =>
    queryOptions({
      queryKey: ["jobs"],
      queryFn: () => data(client.GET("/api/jobs")),
      refetchInterval: (query) => (query.state.data?.jobs.some(isOpen) ? 700 : 5000),
    }),
  /** The colours of a product's pictures. */
  colours: (product: number) =>
    queryOptions({
      queryKey: ["colours", product],
      queryFn: () => data(client.GET("/api/products/{number}/colours", { params: { path: { number: product } } })),
    }),
  /** Who says how many cards products have on listings. */
  listingRules: () =>
    queryOptions({ queryKey: ["listing_rules"], queryFn: () => data(client.GET("/api/listing_rules")) }),
  listingRule: (scope: string) =>
    queryOptions({
      queryKey: ["listing_rule", scope],
      queryFn: () => data(client.GET("/api/listing_rules/open", { params: { query: { scope } } })),
    }),
  /** What a listing of the draft has. */
  listingCards: (noun: string, key: string) =>
    queryOptions({
      queryKey: ["listing_cards", noun, key],
      queryFn: () => data(client.GET("/api/listing_rules/cards", { params: { query: { noun, key } } })),
    }),
  checks: () => queryOptions({ queryKey: ["checks"], queryFn: () => data(client.GET("/api/checks")) }),
  find: (q: string) =>
    queryOptions({ queryKey: ["find", q], queryFn: () => data(client.GET("/api/find", { params: { query: { q } } })) }),
};

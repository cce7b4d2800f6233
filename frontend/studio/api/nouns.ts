import type { Schemas } from "./client";

type NounEntry = {
  /** What the API's addresses call it. */
  plural: string;
  /** What sentences call one, and the heading over several. */
  what: string;
  title: string;
  /** Where the studio opens them. */
  base: string;
};

/** Every noun the studio opens: find-or-do, links, history, mends and refreshing read this table. */
export const NOUNS = {
  field: { plural: "fields", what: "field", title: "Fields", base: "/define/fields" },
  collection: { plural: "collections", what: "collection", title: "Collections", base: "/compose/collections" },
  field_set: { plural: "field_sets", what: "field set", title: "Field sets", base: "/compose/sets" },
  option_set: { plural: "option_sets", what: "option set", title: "Option sets", base: "/compose/options" },
  product_type: { plural: "product_types", what: "product type", title: "Product types", base: "/compose/types" },
  record_type: { plural: "record_types", what: "record type", title: "Record types", base: "/define/records" },
  record: { plural: "records", what: "record", title: "Records", base: "/fill/records" },
  shared_copy: { plural: "shared_copies", what: "shared copy", title: "Shared copy", base: "/define/copies" },
  layout: { plural: "layouts", what: "layout", title: "Layouts", base: "/present/layouts" },
  value_list: { plural: "value_lists", what: "value list", title: "Value lists", base: "/define/lists" },
} as const satisfies Record<string, NounEntry>;

export type NounCode = keyof typeof NOUNS;

/** What the API gives of each noun. */
export type Things = {
  field: Schemas["FieldOut"];
  collection: Schemas["CollectionOut"];
  field_set: Schemas["FieldSetOut"];
  option_set: Schemas["OptionSetOut"];
  product_type: Schemas["ProductTypeOut"];
  record_type: Schemas["RecordTypeOut"];
  record: Schemas["RecordOut"];
  shared_copy: Schemas["SharedCopyOut"];
  layout: Schemas["LayoutOut"];
  value_list: Schemas["ValueListOut"];
};

/** The code of products, which hold values and are no noun. */
export const PRODUCT = "product";

/** Heading of things found, nouns and products. */
export const FOUND: Record<string, string> = {
  ...Object.fromEntries(Object.entries(NOUNS).map(([code, noun]) => [code, noun.title])),
  [PRODUCT]: "Products",
  list_value: "Values",
  option: "Options and their values",
};

/** Where things are opened that are no noun of their own view. */
const OTHERS: Record<string, (key: string) => string> = {
  product: (key) => {
    const [id, field] = key.split("/");
    return `/fill/products/${id}${field ? `?field=${field}` : ""}`;
  },
  list_value: (key) => {
    const [list, value] = key.split("/");
    return `${NOUNS.value_list.base}/${list}?value=${value}`;
  },
  option: (key) => {
    const [set, option] = key.split("/");
    return `${NOUNS.option_set.base}/${set}?option=${option}`;
  },
  block: (key) => {
    const [layout, block] = key.split("/");
    return `${NOUNS.layout.base}/${layout}?block=${block}`;
  },
  variant: (key) => `/fill/products/${key.split("/")[0]}?part=variants`,
  variant_choices: (key) => `/fill/products/${key.split("/")[0]}?part=variants`,
  variant_stock: (key) => `/fill/products/${key.split("/")[0]}?part=variants`,
  choice_stock: (key) => `${NOUNS.option_set.base}/${key.split("/")[0]}`,
  stock: (key) => `/fill/products/${key}`,
  lacking: (key) => `/fill/products?lacking=${key}`,
  wrong: (key) => `/fill/products?wrong=${key}`,
  weave: (key) => `/present/weave?field=${key}`,
  listing_rule: (key) => `/present/listings?scope=${encodeURIComponent(key === "default" ? "shop" : key)}`,
  display_setting: (key) => {
    const [origin, field, surface] = key.split("/");
    const scope = origin === "default" ? "" : `scope=${encodeURIComponent(origin ?? "shop")}&`;
    return `/present/weave?${scope}field=${field}${surface && surface !== "*" ? `&cell=${surface}` : ""}`;
  },
};

/** Where a thing is opened. */
export function placeOf(noun: string, key: string): string {
  const [thing, field] = key.split("/");
  if (noun in NOUNS) return `${NOUNS[noun as NounCode].base}/${thing}${field ? `?field=${field}` : ""}`;
  return OTHERS[noun]?.(key) ?? "/";
}

/** The thing that is open at a path of the studio, null where none is. */
export function thingAt(path: string): { noun: string; key: string } | null {
  const product = /^\/fill\/products\/(\d+)/.exec(path)?.[1];
  if (product) return { noun: PRODUCT, key: product };
  for (const [noun, { base }] of Object.entries(NOUNS)) {
    const key = path.startsWith(`${base}/`) ? path.slice(base.length + 1).split("/")[0] : "";
    if (key && !key.startsWith("~")) return { noun, key: decodeURIComponent(key) };
  }
  return null;
}

/** Questions that stand whatever is written. */
const ALWAYS = ["session", "meta"];
/** Questions that no write of products has a bearing on. */
const OF_DEFINITIONS = ["things", "typeFields", "weave", "touches", "example"];
/** Questions that no display setting has a bearing on. */
const OF_VALUES = ["typeFields", "products", "try", "paste"];

/** What each sort of write leaves as it was: all else is asked anew. */
export const LEAVES: Record<string, readonly string[]> = {
  product: [...ALWAYS, ...OF_DEFINITIONS.filter((name) => name !== "things")],
  variant: [...ALWAYS, ...OF_DEFINITIONS, "products", "missing", "why"],
  stock: [...ALWAYS, ...OF_DEFINITIONS],
  display_setting: [...ALWAYS, ...OF_VALUES],
  key: [...ALWAYS, ...OF_DEFINITIONS, "product", "products", "missing", "why"],
  job: [...ALWAYS, ...OF_DEFINITIONS, "product", "products", "missing", "why"],
};

/** Whether a question is asked anew after a write of some sort. */
export function isTouched(question: unknown, noun: string | undefined): boolean {
  return !(LEAVES[noun ?? ""] ?? ALWAYS).includes(String(question));
}

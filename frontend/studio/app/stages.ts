/** The five stages and their views: one table for the top bar, the keys and find-or-do. */
export const STAGES = [
  {
    code: "define",
    name: "Define",
    views: [
      ["fields", "Fields"],
      ["lists", "Value lists"],
    ],
  },
  {
    code: "compose",
    name: "Compose",
    views: [
      ["types", "Product types"],
      ["sets", "Field sets"],
    ],
  },
  { code: "fill", name: "Fill", views: [["products", "Products"]] },
  { code: "present", name: "Present", views: [["weave", "Weave"]] },
  {
    code: "release",
    name: "Release",
    views: [
      ["changes", "What will change"],
      ["checks", "Checks"],
      ["history", "History"],
    ],
  },
] as const;

/** Where a thing is opened. */
export function placeOf(noun: string, key: string): string {
  switch (noun) {
    case "field":
      return `/define/fields/${key}`;
    case "list":
      return `/define/lists/${key}`;
    case "set":
      return `/compose/sets/${key}`;
    case "type":
      return `/compose/types/${key}`;
    case "product": {
      const [id, field] = key.split("/");
      return `/fill/products/${id}${field ? `?field=${field}` : ""}`;
    }
    case "stock":
      return `/fill/products/${key}`;
    case "lacking":
      return `/fill/products?lacking=${key}`;
    case "wrong":
      return `/fill/products?wrong=${key}`;
    case "weave":
      return `/present/weave?field=${key}`;
    case "setting": {
      const [origin, field, surface] = key.split("/");
      const scope = origin === "default" ? "" : `scope=${encodeURIComponent(origin ?? "shop")}&`;
      return `/present/weave?${scope}field=${field}${surface && surface !== "*" ? `&cell=${surface}` : ""}`;
    }
    default:
      return "/";
  }
}

import { type ComponentType, type LazyExoticComponent, lazy } from "react";

export type View = {
  /** Where in its stage it stands. */
  path: string;
  name: string;
  Screen: LazyExoticComponent<ComponentType>;
  /** Whether the address names what is open in it. */
  opens: boolean;
};

export type Stage = { code: string; name: string; views: readonly View[] };

type Load = () => Promise<{ default: ComponentType }>;
const view = (path: string, name: string, load: Load): View => ({ path, name, Screen: lazy(load), opens: false });
/** A view of things, of which the address names the one that is open. */
const of = (path: string, name: string, load: Load): View => ({ ...view(path, name, load), opens: true });

/** The five stages and their views: the one table that the top bar, the routes, the keys and find-or-do read. */
export const STAGES: readonly [Stage, ...Stage[]] = [
  {
    code: "define",
    name: "Define",
    views: [
      of("fields", "Fields", () => import("../features/define/fields/FieldsView")),
      of("lists", "Value lists", () => import("../features/define/lists/ListsView")),
      of("records", "Record types", () => import("../features/define/record_types/RecordTypesView")),
      of("copies", "Shared copy", () => import("../features/define/copies/CopiesView")),
      view("housekeeping", "Housekeeping", () => import("../features/define/housekeeping/HousekeepingView")),
      view("files", "Files", () => import("../features/define/bundles/FilesView")),
    ],
  },
  {
    code: "compose",
    name: "Compose",
    views: [
      of("types", "Product types", () => import("../features/compose/types/TypesView")),
      of("sets", "Field sets", () => import("../features/compose/sets/SetsView")),
      of("options", "Option sets", () => import("../features/compose/options/OptionSetsView")),
      view("sheet", "Who has what", () => import("../features/compose/sheet/SheetView")),
      of("collections", "Collections", () => import("../features/compose/collections/CollectionsView")),
    ],
  },
  {
    code: "fill",
    name: "Fill",
    views: [
      of("products", "Products", () => import("../features/fill/products/ProductsView")),
      of("records", "Records", () => import("../features/fill/records/RecordsView")),
    ],
  },
  {
    code: "present",
    name: "Present",
    views: [
      view("weave", "Weave", () => import("../features/present/weave/WeaveView")),
      of("layouts", "Layouts", () => import("../features/present/layouts/LayoutsView")),
      view("listings", "Listings", () => import("../features/present/listings/ListingsView")),
    ],
  },
  {
    code: "release",
    name: "Release",
    views: [
      view("changes", "What will change", () => import("../features/release/ChangesView")),
      view("checks", "Checks", () => import("../features/release/ChecksView")),
      view("history", "History", () => import("../features/release/HistoryView")),
      view("jobs", "Jobs", () => import("../features/release/JobsView")),
      view("systems", "Other systems", () => import("../features/release/SystemsView")),
    ],
  },
];

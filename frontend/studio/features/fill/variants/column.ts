import type { Schemas } from "../../../api/client";

/** A column of the grid: of a field, or of what variants are made with. */
export type Column = { key: string; name: string; field?: Schemas["Field"]; own?: boolean; made?: boolean };

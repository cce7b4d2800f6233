import { typedKind } from "./typed";

export const gtin = typedKind("gtin", { mono: true });

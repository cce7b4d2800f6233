import { typedKind } from "./typed";

export const decimal = typedKind("decimal", {}, { amounts: true });

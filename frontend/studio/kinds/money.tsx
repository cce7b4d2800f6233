import { typedKind } from "./typed";

export const money = typedKind("money", {}, { amounts: true });

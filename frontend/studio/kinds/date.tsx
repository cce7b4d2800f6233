import { typedKind } from "./typed";

export const date = typedKind("date");

import { typedKind } from "./typed";

export const text = typedKind("text", {}, { tall: (field) => field.many });

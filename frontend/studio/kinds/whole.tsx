import { typedKind } from "./typed";

export const whole = typedKind("whole", {}, { amounts: true });

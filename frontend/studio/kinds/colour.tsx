import { typedKind } from "./typed";

export const colour = typedKind("colour", {
  after: (at) =>
    at.value.state === "good" && (
      <span
        className="h-[22px] w-8 flex-none rounded border border-line"
        style={{ background: String(at.value.value) }}
      />
    ),
});

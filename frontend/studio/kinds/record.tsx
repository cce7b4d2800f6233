import { referenceKind } from "./references";

export const record = referenceKind("record", {
  what: "record",
  target: (options) => ({ noun: "record_type", of: String(options.record_type ?? "") }),
  opens: "record",
  makes: { noun: "record", with: ({ of }) => ({ type: of }) },
});

import type { Schemas } from "../../../api/client";

/** Sections with fields at the end of the last one; those that stand in one already stay there. */
export function withFields(sections: readonly Schemas["Section"][], keys: readonly string[]): Schemas["Section"][] {
  const fresh = keys.filter((key) => !sections.some((section) => section.fields.includes(key)));
  return sections.map((section, index) =>
    index === sections.length - 1 ? { ...section, fields: [...section.fields, ...fresh] } : section,
  );
}

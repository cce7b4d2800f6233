/** A sub-field of rows; one that was not kept yet has no key. */
export type Column = {
  key?: string;
  label: string;
  kind: string;
  options?: Record<string, unknown>;
  limits?: Record<string, unknown>;
  required?: boolean;
};

export function columnsOf(value: unknown): Column[] {
  return Array.isArray(value) ? (value as Column[]) : [];
}

/** Option → codes: what has one of the codes of every option named is left out. */
export type Rule = { [option: string]: string[] };

/** Rules with one pair of values left out, or no longer: those of just these two options are written anew, row by row. */
export function toggledCell(rules: readonly Rule[], down: string, row: string, across: string, column: string): Rule[] {
  const isPair = (rule: Rule) => Object.keys(rule).length === 2 && down in rule && across in rule;
  const cells = new Map<string, Set<string>>();
  for (const rule of rules.filter(isPair))
    for (const code of rule[down] ?? []) {
      const columns = cells.get(code) ?? new Set();
      for (const other of rule[across] ?? []) columns.add(other);
      cells.set(code, columns);
    }
  const columns = cells.get(row) ?? new Set();
  if (columns.has(column)) columns.delete(column);
  else columns.add(column);
  cells.set(row, columns);
  const alike = new Map<string, { rows: string[]; columns: string[] }>();
  for (const [code, found] of cells) {
    if (found.size === 0) continue;
    const sorted = [...found].sort();
    const mark = sorted.join("\n");
    const group = alike.get(mark) ?? { rows: [], columns: sorted };
    group.rows.push(code);
    alike.set(mark, group);
  }
  const made = [...alike.values()].map(({ rows, columns }) => ({ [down]: rows, [across]: columns }));
  return [...rules.filter((rule) => !isPair(rule)), ...made];
}

/** Rules without one: that at the place, where it still stands there, else the first like it. */
export function without(rules: readonly Rule[], rule: Rule, index: number): Rule[] {
  const mark = JSON.stringify(rule);
  const at = JSON.stringify(rules[index]) === mark ? index : rules.findIndex((other) => JSON.stringify(other) === mark);
  return rules.filter((_, other) => other !== at);
}

/** A rule as people read it: `Tube size 37 ml in Colour Peat or Chalk`. */
export function wordsOf(
  rule: Rule,
  name: (key: string) => string,
  label: (key: string, code: string) => string,
): string {
  return Object.entries(rule)
    .map(([key, codes]) => `${name(key)} ${codes.map((code) => label(key, code)).join(" or ")}`)
    .join(", with ");
}

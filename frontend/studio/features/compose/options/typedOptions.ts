import { keyOf, NO_EFFECT, newValue, type Option } from "./useOptionSet";

/** Codes for labels, none twice. */
export function codesOf(labels: readonly string[], taken: Iterable<string> = []): string[] {
  const used = new Set(taken);
  return labels.map((label) => {
    const base =
      keyOf(label, new Set())
        .replace(/^o_(?=.)/, "")
        .replaceAll("_", "-") || "value";
    let code = base;
    for (let number = 2; used.has(code); number += 1) code = `${base}-${number}`;
    used.add(code);
    return code;
  });
}

/** An option typed in a line: `Size: S, M, L` makes variants, a name alone is a text shoppers type. */
export function typedOption(line: string, taken: ReadonlySet<string>): Option | null {
  const [head = "", ...rest] = line.split(":");
  const name = head.trim();
  if (!name) return null;
  const labels = [
    ...new Set(
      rest
        .join(":")
        .split(",")
        .map((label) => label.trim())
        .filter(Boolean),
    ),
  ];
  const codes = codesOf(labels);
  const values = labels.map((label, index) => newValue(codes[index] ?? label, label));
  const bare = { key: keyOf(name, taken), name, description: "", default: "", list: "", effect: NO_EFFECT } as const;
  return labels.length > 0
    ? { ...bare, kind: "variant", required: true, takes: "own", values, limits: {} }
    : { ...bare, kind: "text", required: false, takes: "own", values, limits: { max_length: 40 } };
}

/** All options typed, one a line. */
export function typedOptions(lines: string): Option[] {
  const taken = new Set<string>();
  const made: Option[] = [];
  for (const line of lines.split("\n")) {
    const option = typedOption(line, taken);
    if (!option) continue;
    taken.add(option.key);
    made.push(option);
  }
  return made;
}

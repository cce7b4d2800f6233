/** A proof keeps for itself alone: what the merchandiser put by in the shop is no part of a page that is proved. */
const proved = new Map<string, string>();
const isProof = () => window.location.pathname.startsWith("/proof");

/** Texts kept in this browser under a name, in their order; nothing where it keeps none. */
export function kept<T>(name: string): T[] {
  try {
    const found: unknown = JSON.parse((isProof() ? proved.get(name) : localStorage.getItem(name)) ?? "[]");
    return Array.isArray(found) ? found : [];
  } catch {
    return [];
  }
}

export function keep(name: string, items: readonly unknown[]): void {
  if (isProof()) {
    proved.set(name, JSON.stringify(items));
    return;
  }
  try {
    localStorage.setItem(name, JSON.stringify(items));
  } catch {
    // A browser that keeps nothing goes on without.
  }
}

export type ShopWords = { compare: string; out: string; close: string; full: string };

/** The shop's fixed words that scripts say, in its language. */
export function shopWords(): ShopWords {
  return JSON.parse(document.body.dataset.words ?? '{"compare":"","out":"","close":"","full":""}');
}

/** The person's own locale: dates, times and numbers of the studio are told in it. */
export const LOCALE: string | undefined = typeof navigator === "undefined" ? undefined : navigator.language;

/** A whole number with its groups. */
export function number(value: number): string {
  return value.toLocaleString(LOCALE);
}

/** A day and time, short. */
export function dayAndTime(at: string): string {
  return new Date(at).toLocaleString(LOCALE, { day: "numeric", month: "short", hour: "2-digit", minute: "2-digit" });
}

/** One of something, with its article: `a field`, `an option set`. */
export function withArticle(what: string): string {
  return `${/^[aeiou]/i.test(what) ? "an" : "a"} ${what}`;
}

/** Words with a capital at their front. */
export function capital(words: string): string {
  return `${words.charAt(0).toUpperCase()}${words.slice(1)}`;
}

import { useQuery } from "@tanstack/react-query";
import { ask } from "../api/queries";

/** An icon of the small set, drawn in strokes; nothing where there is none. */
export function IconMark({ code, size = 18 }: { code: string | undefined; size?: number }) {
  const icon = useQuery(ask.meta()).data?.icons.find((other) => other.code === code);
  if (!icon) return null;
  return (
    <svg
      viewBox="0 0 24 24"
      width={size}
      height={size}
      className="flex-none"
      fill="none"
      stroke="currentColor"
      strokeWidth={1.6}
      strokeLinecap="round"
      strokeLinejoin="round"
      aria-hidden="true"
    >
      <path d={icon.path} />
    </svg>
  );
}

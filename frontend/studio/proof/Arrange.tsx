import { Link } from "react-router";
import { useMay } from "../ui/rights";

/** Where what a scope has for itself on a surface is arranged; it begins with the first edit. */
export function arrangementPlace(scope: string, surface: string, product?: number): string {
  const query = new URLSearchParams({ scope, surface, ...(product ? { product: String(product) } : {}) });
  return `/present/layouts/~own?${query}`;
}

/** Opens the arrangement that a scope has, or would have, for itself on a surface. */
export function Arrange(props: { scope: string; surface: string; words: string; look?: "quiet"; product?: number }) {
  if (!useMay("edit")) return null;
  return (
    <Link
      className={`btn ${props.look ?? ""}`}
      title="Move, hide and add blocks here alone; all else follows as before"
      to={arrangementPlace(props.scope, props.surface, props.product)}
    >
      {props.words}
    </Link>
  );
}

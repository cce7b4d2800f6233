import { Link } from "react-router";
import type { Schemas } from "../api/client";
import { PRODUCT, placeOf } from "../api/nouns";
import { counted } from "../ui/basics";
import { number } from "../ui/locale";

type Found = Schemas["VariantEffectsOut"];

/** Whether a change has anything to say of variants. */
export function differs(found: Found | null | undefined): boolean {
  return !!found && found.added + found.back + found.retired + found.skus + found.prices > 0;
}

/** What becomes of variants: those kept, added and retired with their stock; SKUs and prices that change. */
export function VariantLines({ found }: { found: Found }) {
  const parts = [
    found.added > 0 && `${number(found.added)} new`,
    found.back > 0 && `${number(found.back)} back from before`,
    found.retired > 0 &&
      `${number(found.retired)} retired${found.retired_stock > 0 ? ` with ${number(found.retired_stock)} in stock` : ""}`,
    `${number(found.kept)} kept`,
  ].filter(Boolean);
  return (
    <section aria-label="Variants">
      <p className="mt-1">
        Variants on {counted(found.products, "product")}
        {found.whole ? "" : " at least"}: {parts.join(", ")}.
        {found.retired > 0 && " Retired ones keep all they hold, and come back when their values do."}
      </p>
      <Examples
        words={`${counted(found.retired, "variant")} retired`}
        rows={found.retired_examples}
        count={found.retired}
      />
      <Examples
        words={`${counted(found.prices, "price")} will change`}
        rows={found.price_examples}
        count={found.prices}
      />
      <Examples words={`${counted(found.skus, "SKU")} will change`} rows={found.sku_examples} count={found.skus} />
    </section>
  );
}

function Examples({ words, rows, count }: { words: string; rows: Found["sku_examples"]; count: number }) {
  if (count === 0) return null;
  return (
    <>
      <p className="mt-1">{words}:</p>
      <ul>
        {rows.map((row) => (
          <li key={`${row.product} ${row.choice}`} className="truncate">
            <Link className="link" to={placeOf(PRODUCT, String(row.product))}>
              {row.title}
            </Link>{" "}
            {row.choice}: {row.before} → {row.after}
          </li>
        ))}
        {count > rows.length && <li className="hint">and {number(count - rows.length)} more</li>}
      </ul>
    </>
  );
}

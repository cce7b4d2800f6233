import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { Link } from "react-router";
import type { Schemas } from "../../api/client";
import { ask } from "../../api/queries";
import { Button } from "../../ui/basics";
import { Framed } from "./Framed";

/** Pages and cards that a change would make different: as they are live, beside the same after the release. */
export function Compare({ thing, open }: { thing: Schemas["PendingOne"]; open: string }) {
  const found = useQuery(ask.differing(thing.noun, thing.key)).data;
  const types = useQuery(ask.things("product_type")).data ?? [];
  const surfaces = useQuery(ask.meta()).data?.surfaces ?? [];
  const [at, setAt] = useState(0);
  const rows = found?.rows ?? [];
  const row = rows[at];
  // What has no page of its own is compared where it is listed.
  const addressed = surfaces.some((surface) => surface.addressed && row?.surfaces.includes(surface.code));
  const listing = row && !addressed ? types.find(({ thing: type }) => type.key === row.type)?.thing : undefined;
  return (
    <section className="flex min-h-0 flex-1 flex-col px-4 pb-4" aria-label="Before and after">
      <header className="flex min-h-[46px] items-center gap-2">
        <h2 className="min-w-0 truncate text-[14px] font-bold">{thing.name}</h2>
        <span className="min-w-0 truncate text-ink-2">{found && placeWords(found, at, listing?.name)}</span>
        <span className="ml-auto flex flex-none items-center gap-2">
          <Link className="link leading-6" to={open}>
            open it
          </Link>
          <Button aria-label="The one before" disabled={at === 0} onClick={() => setAt(at - 1)}>
            ‹
          </Button>
          <Button aria-label="The next one" disabled={at >= rows.length - 1} onClick={() => setAt(at + 1)}>
            ›
          </Button>
        </span>
      </header>
      {row && (
        <div className="grid min-h-0 flex-1 grid-cols-2 gap-3">
          <Framed
            title="Live now"
            src={listing ? `/shop/c/${listing.slug}` : `/proof/live/${row.id}?against=/proof/product/${row.id}`}
          />
          <Framed
            title="After this release"
            src={
              listing
                ? `/proof/type/${listing.key}?against=/shop/c/${listing.slug}`
                : `/proof/product/${row.id}?against=/proof/live/${row.id}`
            }
            strong
          />
        </div>
      )}
      {found && !row && (
        <p className="text-ink-2">
          {found.whole ? "Shoppers will see no difference." : "None of the first 600 products looked at differs."}
        </p>
      )}
      {!found && <p className="text-ink-2">Looking for what differs…</p>}
    </section>
  );
}

/** `on Jetty easel, 1 of 4 that differ`. */
export function placeWords(found: Schemas["DifferingOut"], at: number, listing?: string): string {
  const row = found.rows[at];
  if (!row) return "";
  const count = `${found.whole ? "" : "at least "}${found.rows.length}`;
  const many =
    found.whole && found.rows.length === 1 ? "the only one that differs" : `${at + 1} of ${count} that differ`;
  return listing ? `${row.title} on the listing ${listing}, ${many}` : `on ${row.title}, ${many}`;
}

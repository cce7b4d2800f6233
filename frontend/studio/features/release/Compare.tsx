import { useQuery } from "@tanstack/react-query";
import { useEffect, useRef, useState } from "react";
import { Link } from "react-router";
import { client, data, type Schemas } from "../../api/client";
import { ask } from "../../api/queries";
import { Button, counted } from "../../ui/basics";

/** A page as it is live beside the same page after the release, for the products a change touches. */
export function Compare({ thing, open }: { thing: Schemas["PendingOne"]; open: string }) {
  const products = useTouched(thing);
  const [at, setAt] = useState(0);
  const rows = products?.rows ?? [];
  const product = rows[at];
  const count = products?.total ?? 0;
  const types = useQuery(ask.types()).data?.types ?? [];
  const scope = thing.key.split("/")[0];
  const onCards =
    thing.noun === "setting" && thing.pages === 0
      ? types.find((one) => `type:${one.type.key}` === scope)?.type
      : undefined;
  return (
    <section className="flex min-h-0 flex-1 flex-col px-4 pb-4" aria-label="Before and after">
      <header className="flex min-h-[46px] items-center gap-2">
        <h2 className="min-w-0 truncate text-[14px] font-bold">{thing.name}</h2>
        <span className="min-w-0 truncate text-ink-2">
          {onCards
            ? `on the listing ${onCards.name}`
            : product
              ? `on ${product.title}, ${at + 1} of ${counted(count, "page")}`
              : "on no page"}
        </span>
        <span className="ml-auto flex flex-none items-center gap-2">
          <Link className="link" to={open}>
            open it
          </Link>
          <Button aria-label="The page before" disabled={at === 0} onClick={() => setAt(at - 1)}>
            ‹
          </Button>
          <Button aria-label="The next page" disabled={at >= rows.length - 1} onClick={() => setAt(at + 1)}>
            ›
          </Button>
        </span>
      </header>
      {product && (
        <div className="grid min-h-0 flex-1 grid-cols-2 gap-3">
          <Side title="Live now" src={onCards ? `/shop/c/${onCards.slug}` : `/proof/live/${product.id}`} />
          <Side
            title="After this release"
            src={onCards ? `/proof/type/${onCards.key}` : `/proof/product/${product.id}?against=live`}
            strong
          />
        </div>
      )}
      {!product && products && <p className="hint">No product has this yet, so no page shows it.</p>}
    </section>
  );
}

/** Some of the products a change reaches: of a type, of those that have a field, or the product itself. */
function useTouched(thing: Schemas["PendingOne"]) {
  const scope = thing.noun === "setting" ? (thing.key.split("/")[0] ?? "") : "";
  const example = useQuery({
    ...ask.example(
      thing.noun === "setting" ? "field" : thing.noun,
      thing.noun === "setting" ? (thing.key.split("/")[1] ?? "") : thing.key,
    ),
    enabled: thing.example === null && !scope.startsWith("type:"),
  }).data;
  const type = scope.startsWith("type:") ? scope.slice(5) : thing.noun === "type" ? thing.key : undefined;
  const listed = useQuery({
    queryKey: ["products", "touched", type],
    queryFn: () => data(client.GET("/api/products", { params: { query: { type } } })),
    enabled: type !== undefined,
  }).data;
  if (thing.example !== null) return { rows: [{ id: thing.example, title: thing.name }], total: thing.pages };
  if (type !== undefined) return listed && { rows: listed.rows, total: thing.pages || listed.total };
  return (
    example && {
      rows: example.product === null ? [] : [{ id: example.product, title: example.title }],
      total: Math.max(thing.pages, 1),
    }
  );
}

const WIDTH = 820;

function Side({ title, src, strong }: { title: string; src: string; strong?: boolean }) {
  const box = useRef<HTMLDivElement>(null);
  const [size, setSize] = useState({ width: 380, height: 500 });
  useEffect(() => {
    const observer = new ResizeObserver(
      ([entry]) => entry && setSize({ width: entry.contentRect.width, height: entry.contentRect.height }),
    );
    if (box.current) observer.observe(box.current);
    return () => observer.disconnect();
  }, []);
  const scale = Math.min(1, size.width / WIDTH);
  return (
    <div className="flex min-h-0 flex-col">
      <h3 className={`mb-1 ${strong ? "text-woad" : "font-medium text-ink-2"}`}>{title}</h3>
      <div ref={box} className="relative min-h-0 flex-1 overflow-hidden rounded bg-white shadow">
        <iframe
          title={title}
          src={src}
          className="absolute"
          style={{
            width: WIDTH,
            height: size.height / scale,
            transform: `scale(${scale})`,
            transformOrigin: "top left",
          }}
        />
      </div>
    </div>
  );
}

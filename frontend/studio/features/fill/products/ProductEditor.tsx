import { useQuery } from "@tanstack/react-query";
import { useEffect, useRef, useState } from "react";
import { useSearchParams } from "react-router";
import { client, data, type Schemas } from "../../../api/client";
import { ask } from "../../../api/queries";
import { FieldRow, SurfaceHeads } from "../../../holding/FieldRow";
import { Saved, useSaving } from "../../../state/saving";
import { RemoveThing } from "../../../things/RemoveThing";
import { useAddress } from "../../../ui/address";
import { FillBar, Segments } from "../../../ui/basics";
import { Input } from "../../../ui/inputs";
import { Opening } from "../../../ui/Opening";
import { ForAll } from "../../../ui/rights";
import { type Mark, Selvedge } from "../../../ui/Selvedge";
import { PaneHead } from "../../../ui/Split";
import { VariantsGrid } from "../variants/VariantsGrid";
import { CollectionsSection } from "./CollectionsSection";
import { ProductType } from "./ProductType";
import { StockRow } from "./StockRow";

const OF_FIELDS = "fields";
const OF_VARIANTS = "variants";

/** A product's fields in the sections of its sets; each saves by itself. */
export function ProductEditor({ id }: { id: number }) {
  const found = useQuery(ask.product(id));
  const product = found.data;
  const { save, latest } = useSaving();
  const sheet = useRef<HTMLDivElement>(null);
  const [refused, setRefused] = useState<Record<string, string>>({});
  const mark = `product/${id}`;
  const version = () => Math.max((latest.get(mark) as number | undefined) ?? 0, product?.version ?? 0);
  const [part, setPart] = useAddress("part");
  useFieldInAddress(sheet, Boolean(product));
  if (found.isError) return <p className="wrongly p-6">{found.error.message}</p>;
  if (!product) return <Opening />;
  const fields = product.sections.flatMap((section) => section.fields);
  const nameOf = (key: string | null) => fields.find(({ field }) => field.key === key)?.field.name ?? "";

  function fill(changes: Omit<Schemas["ProductPatch"], "version">) {
    const write = async (over: number) => {
      const done = await data(
        client.PATCH("/api/products/{number}", {
          params: { path: { number: id } },
          body: { ...changes, version: over },
        }),
      );
      latest.set(mark, done.version);
      return done;
    };
    return save(() => write(version()), {
      noun: "product",
      over: write,
      onRefused: ({ problem }) => {
        if (problem.code === "clash" && problem.version) latest.set(mark, problem.version);
        const key = String(problem.where[1] ?? "");
        if (problem.code !== "clash") setRefused((old) => ({ ...old, [key]: `${problem.message}. ${problem.help}` }));
      },
    }).then((done) => {
      if (!done) return;
      setRefused((old) => Object.fromEntries(Object.entries(old).filter(([key]) => !(key in (changes.values ?? {})))));
    });
  }
  const remove = () =>
    data(
      client.DELETE("/api/products/{number}", {
        params: { path: { number: id }, query: { version: version() } },
      }),
    );
  const variants = product.variants;
  const { completeness } = product;
  const required = completeness.required_filled + completeness.required_missing.length;
  const marks: Mark[] = [
    ...product.wrong.map((key) => ({ id: key, wrong: true, text: `${nameOf(key)} is wrong` })),
    ...completeness.required_missing
      .filter((key) => !product.wrong.includes(key))
      .map((key) => ({ id: key, wrong: true, text: `${nameOf(key)} is required` })),
    ...completeness.wanted_missing.map((key) => ({ id: key, wrong: false, text: `${nameOf(key)} is wanted` })),
  ];
  return (
    <>
      <PaneHead
        title={<span title={product.title}>{product.title}</span>}
        note={
          <>
            <span className="tag mr-2">{product.type_path}</span>
            <span className="key">{product.sku}</span>
          </>
        }
      >
        <Saved />
      </PaneHead>
      {variants > 0 && (
        <div className="px-[14px] pb-2">
          <ForAll>
            <Segments
              label="What of it"
              value={part ?? OF_FIELDS}
              choices={[
                [OF_FIELDS, "Fields"],
                [OF_VARIANTS, `Variants ${variants}`],
              ]}
              onChoose={(next) => setPart(next === OF_FIELDS ? null : next)}
            />
          </ForAll>
        </div>
      )}
      {variants > 0 && part === OF_VARIANTS ? (
        <VariantsGrid product={id} />
      ) : (
        <>
          <div className="flex flex-none items-center gap-3 px-[14px] pb-2">
            <FillBar share={completeness.percent} width="46%" />
            <span>
              {completeness.required_filled} of {required} required
              {completeness.next && (
                <>
                  , next:{" "}
                  <button
                    type="button"
                    className="link"
                    onClick={() => focusField(sheet.current, completeness.next as string)}
                  >
                    {nameOf(completeness.next)}
                  </button>
                </>
              )}
            </span>
          </div>
          <div className="flex min-h-0 flex-1">
            <div ref={sheet} className="scroll min-w-0 flex-1">
              <div>
                {product.sections.map((section, index) => (
                  <section
                    key={`${section.title} ${section.note}`}
                    aria-label={`${section.title} ${section.note}`}
                    className="border-t border-line px-[14px] py-2"
                  >
                    <header className="flex items-baseline gap-2">
                      <h3 className="text-[13px]">{section.title}</h3>
                      <span className="text-ink-3">{section.note}</span>
                      {index === 0 && <SurfaceHeads />}
                    </header>
                    {section.fields.map((row) => (
                      <FieldRow
                        key={row.field.key}
                        product={id}
                        at={row}
                        refused={refused[row.field.key]}
                        onFill={(value) => fill({ values: { [row.field.key]: value } })}
                      />
                    ))}
                  </section>
                ))}
                {product.computed.length > 0 && (
                  <section className="border-t border-line px-[14px] py-2" aria-label="Computed">
                    <h3 className="text-[13px]">Computed</h3>
                    {product.computed.map(({ key, name, shown }) => (
                      <div key={key} className="grid grid-cols-[124px_minmax(0,1fr)_84px] gap-x-3 py-1">
                        <span>{name}</span>
                        <output>{shown || <span className="hint">nothing yet</span>}</output>
                      </div>
                    ))}
                  </section>
                )}
                <CollectionsSection product={product} />
                <ShopSection product={product} onFill={fill} onRemove={remove} />
              </div>
            </div>
            <Selvedge sheet={sheet} marks={marks} />
          </div>
        </>
      )}
    </>
  );
}

function focusField(sheet: HTMLElement | null, key: string) {
  const row = sheet?.querySelector<HTMLElement>(`[data-mark="${CSS.escape(key)}"]`);
  row?.scrollIntoView({ block: "center" });
  row?.querySelector<HTMLElement>("input, textarea, select, button")?.focus();
}

/** Go to the field the address names, once it is there. */
function useFieldInAddress(sheet: React.RefObject<HTMLElement | null>, ready: boolean) {
  const [params, setParams] = useSearchParams();
  const field = params.get("field");
  useEffect(() => {
    if (!field || !ready) return;
    focusField(sheet.current, field);
    setParams(
      (old) => {
        const next = new URLSearchParams(old);
        next.delete("field");
        return next;
      },
      { replace: true },
    );
  }, [field, ready, sheet, setParams]);
}

/** What holds for the product in the shop: stock, type, whether it is offered, and taking it away. */
function ShopSection({
  product,
  onFill,
  onRemove,
}: {
  product: Schemas["ProductOut"];
  onFill: (changes: Omit<Schemas["ProductPatch"], "version">) => void;
  onRemove: () => Promise<unknown>;
}) {
  return (
    <section className="border-t border-line px-[14px] py-2" aria-label="In the shop">
      <h3 className="text-[13px]">In the shop</h3>
      <StockRow product={product} />
      <div className="grid grid-cols-[124px_minmax(0,1fr)_84px] items-center gap-3 py-1">
        <label htmlFor="type-of-product">Product type</label>
        <ProductType product={product} onFill={(type) => onFill({ type })} />
      </div>
      <div className="grid grid-cols-[124px_minmax(0,1fr)_84px] items-center gap-3 py-1">
        <span>Offered</span>
        <label className="flex items-center gap-2">
          <Input
            type="checkbox"
            className="tick"
            checked={product.offered}
            onChange={(event) => onFill({ offered: event.target.checked })}
          />{" "}
          in the shop after the next release
        </label>
      </div>
      <div className="mb-3">
        <RemoveThing what="product" noun="product" name={product.title} remove={onRemove} to="/fill/products" />
      </div>
    </section>
  );
}

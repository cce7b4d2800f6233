import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { PRODUCT } from "../api/nouns";
import { ask } from "../api/queries";
import { Button } from "../ui/basics";
import { Input } from "../ui/inputs";

/** Colours out of the pictures of a product: looked for by the value's own name, or any other words; pressed, one is taken. */
export function FromPictures({ name, onPick }: { name: string; onPick: (colour: string) => void }) {
  const [words, setWords] = useState<string | null>(null);
  const [product, setProduct] = useState<{ id: number; title: string } | null>(null);
  const wanted = (words ?? "").trim();
  const hits = useQuery({ ...ask.find(wanted), enabled: wanted !== "" && !product }).data?.hits ?? [];
  const found = useQuery({ ...ask.colours(product?.id ?? 0), enabled: product !== null }).data?.pictures;
  if (words === null)
    return (
      <button type="button" className="link mt-1 ml-[92px]" onClick={() => setWords(name)}>
        Pick from a product's pictures
      </button>
    );
  const products = hits.filter((hit) => hit.noun === PRODUCT).slice(0, 5);
  return (
    <div className="mt-2 rounded border border-line p-2">
      <Input
        className="input"
        aria-label="Product to pick colours from"
        placeholder="Title or SKU"
        value={words}
        onChange={(event) => {
          setWords(event.target.value);
          setProduct(null);
        }}
      />
      {!product && wanted !== "" && products.length === 0 && <p className="hint mt-1">No product is called so.</p>}
      {!product &&
        products.map((hit) => (
          <Button
            key={hit.key}
            look="quiet"
            className="w-full !justify-start"
            onClick={() => setProduct({ id: Number(hit.key), title: hit.name })}
          >
            <span className="truncate">{hit.name}</span>
          </Button>
        ))}
      {product && found?.length === 0 && <p className="hint mt-1">{product.title} has no picture.</p>}
      {found?.map((picture) => (
        <div key={picture.file} className="mt-2 flex items-center gap-2">
          <img
            src={`/files/${picture.file}-160.webp`}
            alt=""
            width={40}
            height={40}
            className="rounded border border-line"
          />
          {picture.colours.map(({ colour, share }) => (
            <button
              key={colour}
              type="button"
              className="h-7 w-7 rounded border border-line"
              style={{ background: colour }}
              aria-label={`Take ${colour}, ${Math.round(share * 100)} % of the picture`}
              title={`${colour}, ${Math.round(share * 100)} %`}
              onClick={() => onPick(colour)}
            />
          ))}
        </div>
      ))}
    </div>
  );
}

import { useState } from "react";
import { client, data, type Schemas } from "../../../api/client";
import { useSaving } from "../../../state/saving";
import { TextBox } from "../../../ui/TextBox";

/** The stock of a product: live at once, unlike all else. */
export function StockRow({ product }: { product: Schemas["ProductOut"] }) {
  const { save } = useSaving();
  const [wrong, setWrong] = useState<string | null>(null);
  function put(text: string) {
    const amount = text.trim() === "" ? null : Number(text);
    if (amount !== null && !Number.isInteger(amount)) {
      setWrong("Stock is a whole number. Leave it empty when it is not counted");
      return;
    }
    setWrong(null);
    void save(
      () =>
        data(
          client.PUT("/api/products/{number}/stock", {
            params: { path: { number: product.id } },
            body: { expected: product.stock ?? null, amount },
          }),
        ),
      {
        noun: "stock",
        onRefused: ({ problem }) => setWrong(`${problem.message}. ${problem.help}`),
      },
    );
  }
  return (
    <div className="grid grid-cols-[124px_minmax(0,1fr)_84px] items-center gap-3 py-1">
      <label htmlFor="stock">Stock</label>
      <div>
        <TextBox
          id="stock"
          inputMode="numeric"
          placeholder="not counted"
          wrong={wrong !== null}
          value={product.stock === null ? "" : String(product.stock)}
          onCommit={put}
        />
        {wrong && (
          <p className="wrongly mt-0.5" role="alert">
            {wrong}
          </p>
        )}
      </div>
      <span className="tag moss justify-self-start">live at once</span>
    </div>
  );
}

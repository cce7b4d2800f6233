import { useState } from "react";
import { client, data, type Schemas } from "../../../api/client";
import { TypeOptions } from "../../../things/TypeOptions";
import { Button, Dialog } from "../../../ui/basics";
import { Select } from "../../../ui/Select";

type Change = Schemas["TypeChangeOut"] & { to: string; name: string };

/** The type of a product; another one is taken after telling which values go aside, and which come back. */
export function ProductType({ product, onFill }: { product: Schemas["ProductOut"]; onFill: (type: string) => void }) {
  const [asked, setAsked] = useState<Change | null>(null);
  async function consider(to: string, name: string) {
    const path = { number: product.id };
    const found = await data(client.GET("/api/products/{number}/as", { params: { path, query: { type: to } } }));
    if (found.gone.length === 0 && found.come.length === 0) onFill(to);
    else setAsked({ ...found, to, name });
  }
  return (
    <>
      <Select
        id="type-of-product"
        className="input"
        value={product.type}
        onChange={(event) =>
          void consider(event.target.value, event.target.selectedOptions[0]?.textContent ?? event.target.value)
        }
      >
        <TypeOptions />
      </Select>
      <Dialog
        open={asked !== null}
        onClose={() => setAsked(null)}
        title={`Make it ${asked?.name ?? ""}`}
        note="No value is dropped: what goes aside is back when its field is."
      >
        {asked && (
          <>
            <Values title="Goes aside" rows={asked.gone} none="nothing" />
            <Values title="Comes" rows={asked.come} none="nothing" />
          </>
        )}
        <div className="mt-4 flex justify-end gap-2">
          <Button onClick={() => setAsked(null)}>Leave it</Button>
          <Button
            look="primary"
            onClick={() => {
              if (asked) onFill(asked.to);
              setAsked(null);
            }}
          >
            Change it
          </Button>
        </div>
      </Dialog>
    </>
  );
}

/** Fields with the values that go with them; those without one in a line. */
function Values({ title, rows, none }: { title: string; rows: Schemas["MovedValueOut"][]; none: string }) {
  const filled = rows.filter(({ shown }) => shown);
  const empty = rows.filter(({ shown }) => !shown);
  return (
    <section className="mt-2">
      <h3>{title}</h3>
      <ul className="scroll max-h-40">
        {filled.map(({ key, name, shown }) => (
          <li key={key} className="truncate">
            {name}: <strong>{shown}</strong>
          </li>
        ))}
      </ul>
      {empty.length > 0 && <p className="hint">Without a value: {empty.map(({ name }) => name).join(", ")}.</p>}
      {rows.length === 0 && <p className="hint">{none}</p>}
    </section>
  );
}

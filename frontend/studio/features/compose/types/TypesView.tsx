import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { useParams } from "react-router";
import { ask } from "../../../api/queries";
import { ExampleProof, ThingPane } from "../../../things/ThingPane";
import { ThingsFrame } from "../../../things/ThingsFrame";
import { TypeOptions } from "../../../things/TypeOptions";
import { useThingsOf } from "../../../things/useThingsOf";
import { Opening } from "../../../ui/Opening";
import { Select } from "../../../ui/Select";
import { TypePane } from "./TypePane";
import { TypeSheet } from "./TypeSheet";
import { TypeTree } from "./TypeTree";

export default function TypesView() {
  const { key } = useParams();
  const types = useQuery(ask.things("product_type")).data;
  const [parent, setParent] = useState("");
  const { put } = useThingsOf("product_type");
  if (!types) return <Opening />;
  const into = (key: string, to: string | null) => {
    const row = types.find(({ thing }) => thing.key === key);
    const where = types.find(({ thing }) => thing.key === to)?.thing.name;
    if (row) put(row, () => ({ parent: to }), `Move ${row.thing.name} ${where ? `under ${where}` : "to the top"}`);
  };
  const here = types.find(({ thing }) => thing.key === key);
  return (
    <ThingsFrame
      noun="product_type"
      here={key}
      rows={types.map(({ thing, below, ancestors }) => ({
        key: thing.key,
        name: thing.name,
        count: below,
        depth: ancestors.length,
      }))}
      tree={(rows, item) => (
        <>
          <TypeTree rows={rows} onInto={into}>
            {item}
          </TypeTree>
        </>
      )}
      more={{ parent: parent || null }}
      choices={
        <label className="mt-2 block">
          Under
          <Select className="input mt-1" value={parent} onChange={(event) => setParent(event.target.value)}>
            <option value="">nothing, it stands at the top</option>
            <TypeOptions />
          </Select>
        </label>
      }
      sheet={here && <TypeSheet key={here.thing.key} row={here} types={types} />}
      pane={
        here && (
          <ThingPane
            what="type"
            noun="product_type"
            thing={here.thing.key}
            own={[["type", "Type", <TypePane key={here.thing.key} row={here} types={types} />]]}
            proof={<ExampleProof noun="product_type" thing={here.thing.key} />}
          />
        )
      }
    />
  );
}

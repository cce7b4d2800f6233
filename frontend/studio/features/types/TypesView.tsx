import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { useParams } from "react-router";
import { client, data } from "../../api/client";
import { ask } from "../../api/queries";
import { ExampleProof, ThingPane } from "../ThingPane";
import { ThingsFrame } from "../ThingsFrame";
import { TypePane } from "./TypePane";
import { TypeSheet } from "./TypeSheet";

export default function TypesView() {
  const { key } = useParams();
  const types = useQuery(ask.types()).data?.types;
  const [parent, setParent] = useState("");
  if (!types) return null;
  const here = types.find((one) => one.type.key === key);
  return (
    <ThingsFrame
      what="product type"
      base="/compose/types"
      here={key}
      rows={types.map((one) => ({
        key: one.type.key,
        name: one.type.name,
        count: one.below,
        depth: one.ancestors.length,
      }))}
      onMake={async (name) =>
        (await data(client.POST("/api/types", { body: { name, parent: parent || null } }))).type.key
      }
      choices={
        <label className="mt-2 block">
          Under
          <select className="input mt-1" value={parent} onChange={(event) => setParent(event.target.value)}>
            <option value="">nothing, it stands at the top</option>
            {types.map((one) => (
              <option key={one.type.key} value={one.type.key}>
                {one.path}
              </option>
            ))}
          </select>
        </label>
      }
      sheet={here && <TypeSheet key={here.type.key} at={here} types={types} />}
      pane={
        here && (
          <ThingPane
            what="type"
            noun="type"
            thing={here.type.key}
            own={["type", "Type", <TypePane key={here.type.key} at={here} types={types} />]}
            proof={<ExampleProof noun="type" thing={here.type.key} />}
          />
        )
      }
    />
  );
}

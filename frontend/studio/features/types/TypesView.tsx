import { useQuery } from "@tanstack/react-query";
import { useEffect, useState } from "react";
import { useNavigate, useParams } from "react-router";
import { client, data } from "../../api/client";
import { ask } from "../../api/queries";
import { useSaving } from "../../app/saving";
import { useAddress } from "../../ui/address";
import { useKeys } from "../../ui/keys";
import { PaneTabs, Split } from "../../ui/Split";
import { HistoryPane } from "../history/HistoryPane";
import { NewThing } from "../NewThing";
import { ProofPane } from "../proof/ProofPane";
import { SideList } from "../SideList";
import { TypePane } from "./TypePane";
import { TypeSheet } from "./TypeSheet";

type Tab = "type" | "proof" | "history";

export default function TypesView() {
  const { key } = useParams();
  const go = useNavigate();
  const { save } = useSaving();
  const types = useQuery(ask.types()).data?.types;
  const [pane, setPane] = useAddress("pane");
  const [parent, setParent] = useState("");
  const tab = (pane as Tab) ?? "type";
  const first = types?.[0]?.type.key;
  useEffect(() => {
    if (!key && first) go(`/compose/types/${first}`, { replace: true });
  }, [key, first, go]);
  useKeys({
    p: () => setPane(tab === "proof" ? null : "proof"),
    h: () => setPane(tab === "history" ? null : "history"),
  });
  if (!types) return null;
  const here = types.find((one) => one.type.key === key);
  const make = async (name: string) => {
    const made = await data(client.POST("/api/types", { body: { name, parent: parent || null } }));
    await save(async () => made);
    go(`/compose/types/${made.type.key}`);
  };
  return (
    <Split
      id="types"
      parts={[
        {
          id: "types",
          min: 190,
          start: "19",
          className: "pane",
          children: (
            <SideList
              what="product type"
              rows={types.map((one) => ({
                key: one.type.key,
                name: one.type.name,
                count: one.below,
                depth: one.ancestors.length,
              }))}
              here={key}
              to={(one) => `/compose/types/${one}`}
              action={
                <NewThing what="product type" onMake={make}>
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
                </NewThing>
              }
            />
          ),
        },
        {
          id: "type",
          min: 420,
          start: "50",
          children: here && <TypeSheet key={here.type.key} at={here} types={types} />,
        },
        {
          id: "pane",
          min: 290,
          start: "31",
          className: "pane",
          children: here && (
            <>
              <PaneTabs<Tab>
                label="Of this type"
                value={tab}
                tabs={[
                  ["type", "Type"],
                  ["proof", "Proof"],
                  ["history", "History"],
                ]}
                onChoose={(one) => setPane(one === "type" ? null : one)}
              />
              {tab === "type" && <TypePane key={here.type.key} at={here} types={types} />}
              {tab === "proof" && <TypeProof type={here.type.key} />}
              {tab === "history" && <HistoryPane noun="type" thing={here.type.key} />}
            </>
          ),
        },
      ]}
    />
  );
}

function TypeProof({ type }: { type: string }) {
  const found = useQuery(ask.example("type", type)).data;
  const [picked, setPicked] = useAddress("product");
  return found ? (
    <ProofPane product={picked ? Number(picked) : found.product} onPick={(one) => setPicked(String(one))} />
  ) : null;
}

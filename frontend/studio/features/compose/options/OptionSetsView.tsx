import { useQuery } from "@tanstack/react-query";
import { useEffect, useRef, useState } from "react";
import { useParams } from "react-router";
import type { Things } from "../../../api/nouns";
import { ask } from "../../../api/queries";
import { Saved } from "../../../state/saving";
import { ThingPane } from "../../../things/ThingPane";
import { ThingsFrame } from "../../../things/ThingsFrame";
import { useAddress } from "../../../ui/address";
import { counted, Empty } from "../../../ui/basics";
import { TextArea } from "../../../ui/inputs";
import { Opening } from "../../../ui/Opening";
import { moved, SortableList, SortableRow } from "../../../ui/Sortable";
import { PaneHead } from "../../../ui/Split";
import { TextBox } from "../../../ui/TextBox";
import { useReveal } from "../../../ui/useReveal";
import { AddOption } from "./AddOption";
import { LeaveOuts } from "./LeaveOuts";
import { OfferedTo } from "./OfferedTo";
import { OptionCard } from "./OptionCard";
import { SetPolicies } from "./SetPolicies";
import { SetProof } from "./SetProof";
import { TryIt } from "./TryIt";
import { typedOptions } from "./typedOptions";
import { useMakers, useOptionSet } from "./useOptionSet";

export default function OptionSetsView() {
  const { key } = useParams();
  const [lines, setLines] = useState("");
  const sets = useQuery(ask.things("option_set")).data;
  // What was typed for one that was made is not there for the next.
  useEffect(() => {
    if (key) setLines("");
  }, [key]);
  if (!sets) return <Opening />;
  const here = sets.find(({ thing }) => thing.key === key);
  return (
    <ThingsFrame
      noun="option_set"
      here={key}
      more={{ options: typedOptions(lines) }}
      choices={
        <label className="mt-2 block">
          Its options, one a line <span className="hint">or later</span>
          <TextArea
            className="input mt-1"
            rows={4}
            placeholder={"Tube size: 5 ml, 15 ml, 37 ml\nName on the tube"}
            value={lines}
            onChange={(event) => setLines(event.target.value)}
          />
          <span className="hint">With a colon and values it makes variants, without it is a text shoppers type.</span>
        </label>
      }
      rows={sets.map(({ thing, products }) => ({ key: thing.key, name: thing.name, count: products }))}
      sheet={here && <OptionSheet key={here.thing.key} row={here} />}
      pane={
        here && (
          <ThingPane
            what="set"
            noun="option_set"
            thing={here.thing.key}
            own={[
              ["try", "Try it", <TryIt key={here.thing.key} row={here} />],
              ["offered", "Offered to", <OfferedTo key={here.thing.key} row={here} />],
            ]}
            proof={<SetProof row={here} />}
          />
        )
      }
    />
  );
}

function OptionSheet({ row }: { row: Things["option_set"] }) {
  const set = row.thing;
  const writes = useOptionSet(row);
  const { put, wrong } = writes;
  // Opened by a press, or by the address one came with.
  const [asked] = useAddress("option");
  const [open, setOpen] = useState<string | null>(asked ?? set.options?.[0]?.key ?? null);
  useEffect(() => setOpen((now) => asked ?? now), [asked]);
  const cards = useRef<HTMLDivElement>(null);
  useReveal(cards, asked, true);
  const options = set.options ?? [];
  const move = (from: number, to: number) =>
    put((now) => ({ options: moved(now.options ?? [], from, to) }), "Order of options changed");
  const isMaker = useMakers();
  const makes = options.filter((option) => isMaker(option.kind)).length;
  return (
    <>
      <PaneHead
        title={set.name}
        note={
          <>
            <span className="badge-quiet">{makes ? "makes variants" : "no variants"}</span> offered on{" "}
            {counted(row.products, "product")}
            {row.gathered ? "" : ", their variants still being matched"}
          </>
        }
      >
        <Saved />
      </PaneHead>
      <div className="flex flex-wrap items-center gap-x-5 gap-y-1 px-[14px] pb-2">
        <label htmlFor="name" className="flex items-center gap-3 text-ink-2">
          Name
          <TextBox
            id="name"
            className="!w-56"
            value={set.name}
            onCommit={(name) => put(() => ({ name }), `${name} renamed`)}
          />
        </label>
        <SetPolicies set={set} put={put} />
      </div>
      {wrong && (
        <p className="wrongly px-[14px] pb-1" role="alert">
          {wrong.text}
        </p>
      )}
      <div ref={cards} className="scroll min-h-0 flex-1 px-[14px] pb-6">
        {options.length === 0 && (
          <Empty title="No options yet">Add the first one below: its name and its values are enough.</Empty>
        )}
        <SortableList ids={options.map((option) => option.key)} onMove={move}>
          {options.map((option, index) => (
            <SortableRow
              key={option.key}
              id={option.key}
              name={option.name}
              className="option-card mb-2 !items-start"
              onStep={(by) => move(index, index + by)}
            >
              <OptionCard
                row={row}
                option={option}
                writes={writes}
                open={open === option.key}
                wrong={wrong}
                onOpen={() => setOpen(open === option.key ? null : option.key)}
              />
            </SortableRow>
          ))}
        </SortableList>
        <AddOption
          options={options}
          onAdd={(made) => {
            put((now) => ({ options: [...(now.options ?? []), made] }), `Option ${made.name} added`);
            setOpen(made.key);
          }}
        />
        {makes > 0 && <LeaveOuts row={row} put={put} />}
      </div>
    </>
  );
}

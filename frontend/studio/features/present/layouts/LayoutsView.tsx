import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { useParams } from "react-router";
import { ask } from "../../../api/queries";
import { NewThing } from "../../../things/NewThing";
import { SideList } from "../../../things/SideList";
import { useMakeThing } from "../../../things/ThingsFrame";
import { Empty } from "../../../ui/basics";
import { Split } from "../../../ui/Split";
import { LayoutEditor } from "./LayoutEditor";
import { rowsOf } from "./tree";

/** Before the code of a surface: a layout that builds on nothing. */
const BARE = "bare:";

/** All layouts at the left, each below the one it builds on; the one that is open on a page, and its blocks. */
export default function LayoutsView() {
  const { key } = useParams();
  const layouts = useQuery(ask.things("layout")).data;
  const surfaces = useQuery(ask.meta()).data?.surfaces ?? [];
  const [base, setBase] = useState("page");
  const make = useMakeThing("layout");
  const view = useQuery({ ...ask.layout(key ?? ""), enabled: Boolean(key) }).data;
  if (!layouts) return null;
  const rows = surfaces.flatMap((surface) => rowsOf(layouts, surface.code));
  const chosen = layouts.find(({ thing }) => thing.key === base)?.thing;
  const bare = base.startsWith(BARE) ? base.slice(BARE.length) : null;
  const given = bare
    ? { surface: bare, base: "", regions: [{ id: "main", blocks: [] }] }
    : { surface: chosen?.surface, base };
  const side = (
    <SideList
      what="layout"
      rows={rows}
      here={key}
      to={(other) => `/present/layouts/${other}`}
      note="A layout follows the one it stands below, except where it says otherwise."
      action={
        <NewThing what="layout" onMake={async (name) => void (await make(name, given))}>
          <label className="mt-2 block font-semibold">
            Builds on
            <select className="input mt-1 font-normal" value={base} onChange={(event) => setBase(event.target.value)}>
              {surfaces.map((surface) => (
                <optgroup key={surface.code} label={surface.name}>
                  {layouts
                    .filter(({ thing }) => thing.surface === surface.code)
                    .map(({ thing }) => (
                      <option key={thing.key} value={thing.key}>
                        {thing.name}
                      </option>
                    ))}
                  <option value={`${BARE}${surface.code}`}>nothing, an empty {surface.name}</option>
                </optgroup>
              ))}
            </select>
          </label>
        </NewThing>
      }
    />
  );
  if (view && view.key === key) return <LayoutEditor key={key} view={view} side={side} layouts={layouts} />;
  return (
    <Split
      id="layouts"
      parts={[
        { id: "all", min: 190, start: "18", className: "pane", children: side },
        {
          id: "sheet",
          min: 420,
          start: "82",
          children: key ? (
            <Empty title={`There is no layout “${key}”`}>Choose one at the left, or undo its removal in History.</Empty>
          ) : (
            <Empty title="Choose a layout">Each surface has one that comes with the shop, to build your own on.</Empty>
          ),
        },
      ]}
    />
  );
}

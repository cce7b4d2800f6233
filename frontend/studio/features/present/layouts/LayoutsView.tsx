import { useQuery } from "@tanstack/react-query";
import { useRef, useState } from "react";
import { flushSync } from "react-dom";
import { Navigate, useLocation, useNavigate, useParams, useSearchParams } from "react-router";
import { ask, standing } from "../../../api/queries";
import { NewThing } from "../../../things/NewThing";
import { SideList } from "../../../things/SideList";
import { useMakeThing } from "../../../things/ThingsFrame";
import { Empty } from "../../../ui/basics";
import { Opening } from "../../../ui/Opening";
import { Select } from "../../../ui/Select";
import { Split } from "../../../ui/Split";
import { LayoutEditor } from "./LayoutEditor";
import { begunAt, rowsOf, type View } from "./tree";

/** Before the code of a surface: a layout that builds on nothing. */
const BARE = "bare:";
/** In place of a key: what a scope has for itself, which may not have begun. */
const OWN = "~own";

/** All layouts at the left, each below the one it builds on; the one that is open on a page, and its blocks. */
export default function LayoutsView() {
  const { key } = useParams();
  const layouts = useQuery(ask.things("layout")).data;
  const surfaces = useQuery(ask.meta()).data?.surfaces ?? [];
  const [base, setBase] = useState("page");
  const make = useMakeThing("layout");
  const own = key === OWN;
  const asked = useQuery({ ...ask.layout(key ?? ""), enabled: Boolean(key) && !own });
  const arranged = useArrangement(own);
  const [editorOf, begin] = useBegun();
  const view: View | undefined = own ? arranged?.view : standing(asked);
  if (!layouts || (own && !arranged)) return <Opening />;
  if (own && arranged?.begun) return <Navigate to={arranged.begun} replace />;
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
            <Select className="input mt-1 font-normal" value={base} onChange={(event) => setBase(event.target.value)}>
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
            </Select>
          </label>
        </NewThing>
      }
    />
  );
  if (view && (own || view.key === key))
    return <LayoutEditor key={editorOf(key, view)} view={view} side={side} layouts={layouts} onBegun={begin} />;
  if (asked.isLoading) return <Opening />;
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

/** What the scope in the address has for itself, or would have; `begun` is where it is opened once it is there. */
function useArrangement(own: boolean): { view: View; begun: string | null } | null {
  const [params] = useSearchParams();
  const { search } = useLocation();
  const of = { scope: params.get("scope") ?? "shop", surface: params.get("surface") ?? "" };
  const found = useQuery({ ...ask.arrangement(of.scope, of.surface), enabled: own }).data;
  if (!own || !found) return null;
  return { view: { ...found.view, own: of }, begun: found.key && begunAt(found.key, search) };
}

/** The editor of an arrangement stays the one it is when the arrangement begins: what is picked and typed in it stands. */
function useBegun(): [editorOf: (key: string | undefined, view: View) => string, begin: (key: string) => void] {
  const go = useNavigate();
  const search = useRef("");
  search.current = useLocation().search;
  const [begun, setBegun] = useState<{ key: string; editor: string } | null>(null);
  const [params] = useSearchParams();
  const editor = `~own ${params.get("scope")} ${params.get("surface")}`;
  const latest = useRef(editor);
  latest.current = editor;
  return [
    (key, view) => (view.own ? editor : begun && begun.key === key ? begun.editor : String(key)),
    (key) => {
      // The editor is known as the same before the address is another: else it would be drawn anew, and the focus lost.
      flushSync(() => setBegun({ key, editor: latest.current }));
      go(begunAt(key, search.current), { replace: true, flushSync: true });
    },
  ];
}

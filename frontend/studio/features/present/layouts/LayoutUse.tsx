import { useQuery } from "@tanstack/react-query";
import { useRef, useState } from "react";
import { Link } from "react-router";
import { placeOf, type Things } from "../../../api/nouns";
import { ask } from "../../../api/queries";
import { usePutLayout } from "../../../considering/usePut";
import { LastChanged } from "../../../history/LastChanged";
import { useThing } from "../../../state/things";
import { CopyThing } from "../../../things/CopyThing";
import { RemoveThing } from "../../../things/RemoveThing";
import { ScopeOptions } from "../../../things/ScopeOptions";
import { Button, counted } from "../../../ui/basics";
import { Select } from "../../../ui/Select";
import { Alike } from "./Alike";
import { type Edit, nameOf, type View } from "./tree";

type Props = {
  view: View;
  can: boolean;
  layouts: readonly Things["layout"][];
  row?: Things["layout"];
  onEdit: (...edits: Edit[]) => Promise<View | null>;
};

/** Whom the layout was chosen for, what it builds on and what on it, what was lost, and what it takes away. */
export function LayoutUse({ view, can, layouts, row, onEdit }: Props) {
  const name = (key: string) => layouts.find(({ thing }) => thing.key === key)?.thing.name ?? key;
  return (
    <section className="scroll min-h-0 flex-1 px-[14px] py-3">
      <h3>Chosen for</h3>
      <ul>
        {view.uses.map((use) => (
          <Use key={use.scope} view={view} scope={use.scope} name={use.name} can={can} />
        ))}
      </ul>
      {view.uses.length === 0 && (
        <p className="hint mt-1">Nobody yet{view.shown > 0 ? ", it comes with the surface" : ""}.</p>
      )}
      {can && <ChooseFor view={view} />}
      <p className="mt-1">
        In force for <b>{counted(view.shown, "product")}</b>.
      </p>
      {!view.built_in && <Alike layout={view.key} can={can} name={name} />}
      {view.lost.length > 0 && (
        <>
          <h3 className="mt-4 text-madder">Lost since its base changed</h3>
          <ul>
            {view.lost.map((step) => (
              <li key={step.key} className="mt-1 flex items-baseline gap-2">
                <span className="min-w-0 flex-1">{step.words}</span>
                {can && <Button onClick={() => void onEdit({ op: "drop", step: step.key })}>Forget it</Button>}
              </li>
            ))}
          </ul>
          <p className="hint mt-1">What is lost waits here, and fits again when its base has the block again.</p>
        </>
      )}
      {view.taken_away.length > 0 && (
        <>
          <h3 className="mt-4">Taken away here</h3>
          <ul>
            {view.taken_away.map((block) => (
              <li key={String(block.id)} className="mt-1 flex items-baseline gap-2">
                <span className="min-w-0 flex-1">{nameOf({ block } as never, [])}</span>
                {can && (
                  <Button onClick={() => void onEdit({ op: "follow", id: String(block.id) })}>Bring it back</Button>
                )}
              </li>
            ))}
          </ul>
        </>
      )}
      <h3 className="mt-4">Builds on</h3>
      {view.base ? (
        <Link className="link" to={placeOf("layout", view.base)}>
          {name(view.base)}
        </Link>
      ) : (
        <p className="hint">Nothing: all of it is its own.</p>
      )}
      <h3 className="mt-4">Layouts that build on it</h3>
      {view.builders.length === 0 && <p className="hint">None.</p>}
      <ul>
        {view.builders.map((key) => (
          <li key={key}>
            <Link className="link" to={placeOf("layout", key)}>
              {name(key)}
            </Link>
          </li>
        ))}
      </ul>
      {!view.built_in && <LastChanged noun="layout" thing={view.key} />}
      {can && row && <Remove row={row} />}
    </section>
  );
}

function Remove({ row }: { row: Things["layout"] }) {
  const { remove } = useThing("layout", row);
  return (
    <>
      <CopyThing noun="layout" thing={row.thing.key} name={row.thing.name} note="chosen for nobody yet" />
      <RemoveThing what="layout" noun="layout" name={row.thing.name} remove={remove} to="/present/layouts" />
    </>
  );
}

/** One scope it was chosen for, with the way to take it back there. */
function Use(props: { view: View; scope: string; name: string; can: boolean }) {
  const put = useChoose(props.view);
  return (
    <li className="flex items-baseline gap-2">
      <Link className="link" to={`/present/weave?scope=${encodeURIComponent(props.scope)}`}>
        {props.name}
      </Link>
      {props.can && (
        <button
          type="button"
          className="link text-[12px] text-ink-3"
          aria-label={`No longer for ${props.name}`}
          onClick={() => void put(props.scope, null, `${props.view.name} no longer for ${props.name}`)}
        >
          take back
        </button>
      )}
    </li>
  );
}

function ChooseFor({ view }: { view: View }) {
  const put = useChoose(view);
  const [scope, setScope] = useState("");
  const name = useRef("");
  const surface = useQuery(ask.meta()).data?.surfaces.find(({ code }) => code === view.surface);
  return (
    <form
      className="mt-2"
      onSubmit={(event) => {
        event.preventDefault();
        if (scope) void put(scope, view.key, `${view.name} for ${name.current}`).then(() => setScope(""));
      }}
    >
      <label className="text-ink-2" htmlFor="choose-for">
        Choose it for
      </label>
      <div className="mt-1 flex gap-2">
        <Select
          id="choose-for"
          className="input min-w-0"
          value={scope}
          onChange={(event) => {
            name.current = event.target.selectedOptions[0]?.textContent ?? "";
            setScope(event.target.value);
          }}
        >
          <option value="">…</option>
          <option value="shop">the whole shop</option>
          <ScopeOptions subjects={[surface?.subject ?? ""]} />
        </Select>
        <Button right="edit" type="submit" disabled={!scope}>
          Choose it
        </Button>
      </div>
    </form>
  );
}

/** Choosing the layout for a scope on its surface, from what that scope says now. */
function useChoose(view: View) {
  const put = usePutLayout();
  return async (scope: string, layout: string | null, title: string) => {
    const { version } = await fetchCell(scope, view.surface);
    put({ scope, surface: view.surface, version }, layout, title);
  };
}

async function fetchCell(scope: string, surface: string) {
  const query = ask.cell(scope, "*", surface);
  return (await query.queryFn?.({} as never)) as { version: number | null };
}

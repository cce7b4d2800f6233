import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { Link } from "react-router";
import type { Schemas } from "../../../api/client";
import { placeOf } from "../../../api/nouns";
import { ask } from "../../../api/queries";
import { usePutLayout } from "../../../considering/usePut";
import { Arrange } from "../../../proof/Arrange";
import { Popover } from "../../../ui/basics";
import { Select } from "../../../ui/Select";
import { CellSettings } from "./CellSettings";

type Props = {
  surface: Schemas["SurfaceOut"];
  scope: string;
  scopeName: string;
  layout: Schemas["ChosenLayoutOut"] | undefined;
  whole: Schemas["WholeOut"] | undefined;
};

/** The head of a column: the layout in force and who chose it, and what is said of every field there. */
export function ColumnHead({ surface, scope, scopeName, layout, whole }: Props) {
  const [open, setOpen] = useState(false);
  const said = Object.keys(whole?.own ?? {}).length > 0;
  return (
    <Popover
      label={`The whole ${surface.name}`}
      width={430}
      open={open}
      onOpen={setOpen}
      trigger={
        <button
          type="button"
          tabIndex={-1}
          className="w-full min-w-0 rounded px-0.5 py-0.5 text-center hover:bg-woad-tint"
        >
          <span className="block whitespace-normal leading-[15px] first-letter:uppercase">
            {surface.name}
            {said && <span className="text-woad"> •</span>}
          </span>
          <span
            className={`block truncate text-[11px] font-normal ${layout?.own ? "text-woad" : "text-ink-3"}`}
            title={layout?.name}
          >
            {layout?.name}
          </span>
        </button>
      }
    >
      {layout && (
        <LayoutChoice
          surface={surface}
          scope={scope}
          scopeName={scopeName}
          layout={layout}
          version={whole?.version ?? null}
        />
      )}
      {surface.listed && (
        <Link className="link" to={placeOf("listing_rule", scope.startsWith("type:") ? "shop" : scope)}>
          How many cards a product gets
        </Link>
      )}
      <p className="band -mx-3 my-2">
        Every field <span>· unless it says otherwise itself</span>
      </p>
      <CellSettings
        scope={scope}
        field="*"
        surface={surface.code}
        version={whole?.version ?? null}
        title={`Every field on the ${surface.name}`}
        scopeName={scopeName}
      />
    </Popover>
  );
}

function LayoutChoice(props: {
  surface: Schemas["SurfaceOut"];
  scope: string;
  layout: Schemas["ChosenLayoutOut"];
  scopeName: string;
  version: number | null;
}) {
  const { surface, scope, layout } = props;
  const layouts = useQuery(ask.things("layout")).data ?? [];
  const put = usePutLayout();
  const from = layout.own ? "chosen here" : layout.origin === "default" ? "as it comes" : `from ${layout.origin_name}`;
  return (
    <div className="grid grid-cols-[96px_minmax(0,1fr)] items-center gap-x-2 gap-y-1">
      <label htmlFor={`layout-${surface.code}`} className="text-ink-2">
        Layout
      </label>
      <Select
        id={`layout-${surface.code}`}
        className="input"
        value={layout.own}
        onChange={(event) =>
          put(
            { scope, surface: surface.code, version: props.version },
            event.target.value || null,
            `${event.target.value ? event.target.selectedOptions[0]?.textContent : "The inherited layout"} for ${props.scopeName}`,
          )
        }
      >
        <option value="">{layout.own ? "as inherited" : `${layout.name}, ${from}`}</option>
        {layouts
          .filter(({ thing }) => thing.surface === surface.code)
          .map(({ thing }) => (
            <option key={thing.key} value={thing.key}>
              {thing.name}
            </option>
          ))}
      </Select>
      <span />
      {layout.own === "" && scope !== "shop" && (
        <>
          <span>
            <Arrange scope={scope} surface={surface.code} words={`Arrange for ${props.scopeName} alone`} />
          </span>
          <span />
        </>
      )}
      <span className="hint">
        {from} ·{" "}
        <Link className="link" to={placeOf("layout", layout.key)}>
          open it
        </Link>
      </span>
    </div>
  );
}

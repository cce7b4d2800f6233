import { useQuery } from "@tanstack/react-query";
import { useRef } from "react";
import { ask } from "../../../api/queries";
import { useConsidering } from "../../../considering/Considering";
import { touchedByOne, usePutCell } from "../../../considering/usePut";
import { SettingRows } from "../../../controls/SettingRows";
import { useSurfaces } from "../../../state/surfaces";
import { boxIn, focusOnceThere } from "../../../ui/focus";
import { Opening } from "../../../ui/Opening";

type Props = { scope: string; name: string; lines: readonly string[]; open: boolean; onOpen: () => void };

/** What one scope says of cards; the one that is open can be changed, each member with where it comes from. */
export function RuleCard(props: Props) {
  const { scope, open } = props;
  const card = useRef<HTMLLIElement>(null);
  function opened() {
    props.onOpen();
    focusOnceThere(() => boxIn(card.current));
  }
  const inside = scope.startsWith("product:") ? "ml-16" : scope === "shop" ? "" : "ml-8";
  return (
    <li
      ref={card}
      className={`mt-2.5 rounded-lg border bg-white ${inside} ${open ? "border-2 border-ink" : "border-line"}`}
    >
      {open ? (
        <OpenRule scope={scope} />
      ) : (
        <button type="button" className="block w-full px-3 py-2 text-left hover:bg-woad-tint" onClick={opened}>
          <b>{titleOf(scope, props.name)}</b>
          <span className="block text-ink-2">
            {props.lines.join(" · ") || (scope === "shop" ? "one card a product" : "says nothing")}
          </span>
        </button>
      )}
    </li>
  );
}

function titleOf(scope: string, name: string): string {
  if (scope === "shop") return "The whole shop";
  return `${scope.startsWith("product:") ? "Product" : "Collection"}: ${name}`;
}

/** Every member with its control; a change is told before it is made where cards differ by it. */
function OpenRule({ scope }: { scope: string }) {
  const asked = useQuery(ask.listingRule(scope));
  const surface = useSurfaces().find(({ listed }) => listed)?.code ?? "";
  const put = usePutCell();
  const consider = useConsidering();
  const rule = asked.data;
  if (!rule) return <Opening />;
  const at = { scope, field: "*", surface, version: rule.version };
  function say(code: string, value: unknown) {
    const set = { [code]: value };
    const name = rule?.properties.find((property) => property.code === code)?.name ?? code;
    consider(
      `${name}: ${titleOf(scope, rule?.name ?? "")}`,
      `listing/${scope}/${code}`,
      (signal) => touchedByOne(at, set, signal),
      () => void put(at, set),
    );
  }
  return (
    <section className="px-3 pb-3 pt-2" aria-label={titleOf(scope, rule.name)}>
      <h2 className="mb-1.5 font-bold">{titleOf(scope, rule.name)}</h2>
      <div className="grid grid-cols-[84px_minmax(0,1fr)_92px] items-center gap-x-2 gap-y-1.5">
        <SettingRows rows={rule.properties} onPut={say} />
      </div>
    </section>
  );
}

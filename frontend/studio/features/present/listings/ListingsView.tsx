import { useQuery } from "@tanstack/react-query";
import { ask } from "../../../api/queries";
import { FindProduct } from "../../../proof/FindProduct";
import { Saved } from "../../../state/saving";
import { useAddress } from "../../../ui/address";
import { Button } from "../../../ui/basics";
import { Opening } from "../../../ui/Opening";
import { useMay } from "../../../ui/rights";
import { Select } from "../../../ui/Select";
import { PaneHead, Split } from "../../../ui/Split";
import { ListingPane } from "./ListingPane";
import { RuleCard } from "./RuleCard";

const SHOP = "shop";
const OF_COLLECTION = "collection:";

/** How many cards a product gets on a listing, and how they are called: for the shop, and where it is otherwise. */
export default function ListingsView() {
  const [scopeText, setScope] = useAddress("scope");
  const scope = scopeText ?? SHOP;
  const rules = useQuery(ask.listingRules());
  const listed = rules.data?.rules ?? [];
  const choose = (next: string) => setScope(next === SHOP ? null : next);
  // One that is about to say something stands there before it does.
  const shown = listed.some((rule) => rule.scope === scope) ? listed : [...listed, { scope, name: "", lines: [] }];
  const rulesPart = (
    <>
      <PaneHead title="Listings" note="how many cards a product gets, and what they are called">
        <Saved />
      </PaneHead>
      <div className="scroll min-h-0 flex-1 px-[14px] pb-6">
        {!rules.data && <Opening />}
        {rules.data && (
          <ul aria-label="Who says something of cards">
            {shown.map((rule) => (
              <RuleCard
                key={rule.scope}
                scope={rule.scope}
                name={rule.name}
                lines={rule.lines}
                open={rule.scope === scope}
                onOpen={() => choose(rule.scope)}
              />
            ))}
          </ul>
        )}
        {rules.data && <NewException said={listed.map((rule) => rule.scope)} onChoose={choose} />}
      </div>
    </>
  );
  return (
    <Split
      id="listings"
      parts={[
        { id: "rules", min: 400, start: "42", children: rulesPart },
        {
          id: "pane",
          min: 360,
          start: "58",
          folds: "Proof",
          className: "pane",
          children: (
            <ListingPane
              collection={scope.startsWith(OF_COLLECTION) ? scope.slice(OF_COLLECTION.length) : null}
              scope={scope}
            />
          ),
        },
      ]}
    />
  );
}

/** Where it is to be otherwise: a collection, or a single product. */
function NewException({ said, onChoose }: { said: readonly string[]; onChoose: (scope: string) => void }) {
  const may = useMay("edit");
  const collections = useQuery(ask.things("collection")).data ?? [];
  const left = collections.filter(({ thing }) => !said.includes(`${OF_COLLECTION}${thing.key}`));
  if (!may) return null;
  return (
    <div className="ml-8 mt-3 flex flex-wrap items-center gap-2">
      <span className="text-ink-2">Otherwise</span>
      <Select
        aria-label="Otherwise in a collection"
        className="input !w-auto"
        value=""
        disabled={left.length === 0}
        onChange={(event) => event.target.value && onChoose(`${OF_COLLECTION}${event.target.value}`)}
      >
        <option value="">in a collection…</option>
        {left.map(({ thing }) => (
          <option key={thing.key} value={thing.key}>
            {thing.name}
          </option>
        ))}
      </Select>
      <FindProduct
        label="Otherwise for a product"
        trigger={<Button>for a product…</Button>}
        onPick={(number) => onChoose(`product:${number}`)}
      />
    </div>
  );
}

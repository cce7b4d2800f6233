import { useQuery } from "@tanstack/react-query";
import { Link } from "react-router";
import type { Schemas } from "../../api/client";
import { placeOf } from "../../api/nouns";
import { ask } from "../../api/queries";
import { ProofPane } from "../../proof/ProofPane";
import { useAddress } from "../../ui/address";
import { Empty } from "../../ui/basics";
import { Opening } from "../../ui/Opening";
import { PaneHead, Split } from "../../ui/Split";

const SIGNS: Record<string, [string, string, string]> = {
  wrong: ["✕", "text-madder", "Wrong"],
  look: ["!", "text-[#8a6410]", "Worth a look"],
  good: ["✓", "text-moss", "Good"],
};

/** A finding in one line, with the place to mend it. */
export function CheckLine({ check }: { check: Schemas["CheckOut"] }) {
  const [sign, colour, word] = SIGNS[check.level] ?? ["·", "", ""];
  return (
    <p className="grid grid-cols-[18px_1fr] py-[3px]">
      <span aria-hidden="true" className={`font-bold ${colour}`}>
        {sign}
      </span>
      <span>
        <span className="sr">{word}: </span>
        {check.text}.{" "}
        {check.link && (
          <Link className="link" to={placeOf(check.link[0] ?? "", check.link[1] ?? "")}>
            {check.link[0] === "lacking" || check.link[0] === "wrong" ? "Open them" : "Open it"}
          </Link>
        )}
      </span>
    </p>
  );
}

export default function ChecksView() {
  const checks = useQuery(ask.checks()).data?.checks;
  const [picked, setPicked] = useAddress("product");
  const first = useQuery({
    ...ask.example("product_type", useQuery(ask.things("product_type")).data?.[0]?.thing.key ?? ""),
    enabled: !picked,
  }).data;
  if (!checks) return <Opening />;
  const list = (
    <>
      <PaneHead title="Checks" note="what is wrong or worth a look, as the drafts stand" />
      <div className="scroll min-h-0 flex-1">
        {Object.entries(SIGNS).map(([level, [, , title]]) => {
          const rows = checks.filter((check) => check.level === level);
          return rows.length === 0 ? null : (
            <section key={level} aria-label={title}>
              <h3 className="band">
                {title} <span>{rows.length}</span>
              </h3>
              <div className="px-[14px] py-2">
                {rows.map((check) => (
                  <CheckLine key={check.text} check={check} />
                ))}
              </div>
            </section>
          );
        })}
        {checks.length === 0 && <Empty title="Nothing to check yet">Make a type and a product first.</Empty>}
      </div>
    </>
  );
  return (
    <Split
      id="checks"
      parts={[
        { id: "checks", min: 380, start: "62", children: list },
        {
          id: "pane",
          min: 320,
          start: "38",
          folds: "Proof",
          className: "pane",
          children: (
            <ProofPane
              product={picked ? Number(picked) : (first?.product ?? null)}
              onPick={(number) => setPicked(String(number))}
            />
          ),
        },
      ]}
    />
  );
}

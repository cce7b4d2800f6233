import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { Link } from "react-router";
import type { Schemas } from "../../api/client";
import { ask } from "../../api/queries";
import { placeOf } from "../../app/nouns";
import { useSurfaces } from "../../app/surfaces";

/** The chain for one field: each step passed or failed, the first failure with the place to mend it. */
export function WhyPanel(props: {
  product: number;
  field: string;
  surface: string;
  onSurface: (code: string) => void;
  onClose: () => void;
}) {
  const found = useQuery(ask.why(props.product, props.field, props.surface)).data;
  const surfaces = useSurfaces();
  if (!found) return <div className="min-h-[120px] flex-none border-t-2 border-weld bg-sheet" />;
  const where = surfaces.find((surface) => surface.code === props.surface)?.name ?? "";
  const failed = found.steps.findIndex((step) => step.ok === false);
  return (
    <section className="scroll max-h-[50%] flex-none border-t-2 border-weld bg-sheet px-[14px] py-2.5" aria-label="Why">
      <header className="flex items-start gap-2">
        <h3 className="min-w-0 flex-1">
          {found.shows
            ? `Why “${found.field_name}” shows on the ${where}`
            : `Why is “${found.field_name}” missing from the ${where}?`}
        </h3>
        <button type="button" className="link flex-none text-[12px]" onClick={props.onClose}>
          close <kbd>Esc</kbd>
        </button>
      </header>
      <div className="mt-1.5">
        <select
          className="input !w-auto"
          aria-label="Surface"
          value={props.surface}
          onChange={(event) => props.onSurface(event.target.value)}
        >
          {surfaces.map((surface) => (
            <option key={surface.code} value={surface.code}>
              {surface.name}
            </option>
          ))}
        </select>
      </div>
      <ol className="mt-2 grid gap-1">
        {found.steps.map((step, index) => (
          <StepLine key={step.name} step={step} first={index === failed} after={failed >= 0 && index > failed} />
        ))}
      </ol>
    </section>
  );
}

function StepLine({ step, first, after }: { step: Schemas["StepOut"]; first: boolean; after: boolean }) {
  const sign = step.ok === null || (after && step.ok) ? "·" : step.ok ? "✓" : "✕";
  const look = after ? "text-ink-3" : step.ok ? "" : "text-ink";
  return (
    <li className={`grid grid-cols-[16px_1fr] ${look}`} data-step={step.name} data-ok={String(step.ok)}>
      <span
        aria-hidden="true"
        className={step.ok === false ? "font-bold text-madder" : step.ok && !after ? "font-bold text-moss" : ""}
      >
        {sign}
      </span>
      <span>
        <span className="sr">{step.ok === false ? "Failed: " : step.ok ? "Passed: " : "Not asked: "}</span>
        {step.text}.{" "}
        {step.mend && (first || step.ok === false) && (
          <Link className="link" to={placeOf(step.mend.noun, step.mend.key)}>
            {step.mend.text}
          </Link>
        )}
      </span>
    </li>
  );
}

const SHORT: Record<string, string> = {
  visible: "the product is kept out",
  applies: "its type does not have it",
  audience: "not for shoppers",
  shown: "not shown here",
  slot: "no slot takes it",
  value: "has no value",
};

const FIRST = 24;

/** The fields the proof does not show, each with the first reason; those wanting a value come first. */
export function NotShown({
  product,
  surface,
  onAsk,
}: {
  product: number;
  surface: string;
  onAsk: (field: string) => void;
}) {
  const missing = useQuery(ask.missing(product, surface)).data?.missing;
  const surfaces = useSurfaces();
  const word = surfaces.find(({ code }) => code === surface)?.counted[0] ?? "page";
  const [whole, setWhole] = useState(false);
  if (!missing) return <div className="min-h-[64px] flex-none border-t-2 border-weld bg-sheet" />;
  const all = [...missing].sort((a, b) => Number(b.step.name === "value") - Number(a.step.name === "value"));
  const order = whole ? all : all.slice(0, FIRST);
  return (
    <section
      className="scroll max-h-[26%] flex-none border-t-2 border-weld bg-sheet px-[14px] py-2.5"
      aria-label={`Not on this ${word}`}
    >
      <h3>Not on this {word}</h3>
      {missing.length === 0 ? (
        <p className="hint mt-0.5">Everything it has is shown.</p>
      ) : (
        <p className="mt-0.5 leading-[1.9]">
          {order.map((setting, index) => (
            <span key={setting.key}>
              {index > 0 && " · "}
              <button type="button" className="link text-left" onClick={() => onAsk(setting.key)}>
                {setting.name}
              </button>{" "}
              <span className="text-ink-3">
                {setting.step.text.startsWith("The value is wrong") ? "is wrong" : SHORT[setting.step.name]}
              </span>
            </span>
          ))}
          {all.length > order.length && (
            <>
              {" · "}
              <button type="button" className="link" onClick={() => setWhole(true)}>
                and {all.length - order.length} more
              </button>
            </>
          )}
        </p>
      )}
    </section>
  );
}

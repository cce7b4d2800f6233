import { useQuery } from "@tanstack/react-query";
import { type ReactNode, useState } from "react";
import { Link } from "react-router";
import type { Schemas } from "../api/client";
import { placeOf } from "../api/nouns";
import { type About, ask } from "../api/queries";
import { useSurfaces } from "../state/surfaces";
import { ForAll } from "../ui/rights";
import { Select } from "../ui/Select";
import type { Device } from "./DeviceFrame";
import { MendBy } from "./MendBy";

/** The chain for one field: each step passed or failed, the first failure with the place to mend it; and what else decides. */
export function WhyPanel(props: {
  about: About;
  field: string;
  surface: string;
  device: Device;
  onSurface: (code: string) => void;
  onClose: () => void;
}) {
  const found = useQuery(ask.why(props.about, props.field, props.surface, props.device)).data;
  const surfaces = useSurfaces("record" in props.about ? "record_type:" : "");
  if (!found) return <div className="min-h-[120px] flex-none border-t-2 border-weld bg-sheet" />;
  const where = surfaces.find((surface) => surface.code === props.surface)?.name ?? "";
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
      {surfaces.length > 1 && (
        <ForAll>
          <Select
            className="input mt-1.5 !w-auto"
            aria-label="Surface"
            value={props.surface}
            onChange={(event) => props.onSurface(event.target.value)}
          >
            {surfaces.map((surface) => (
              <option key={surface.code} value={surface.code}>
                {surface.name}
              </option>
            ))}
          </Select>
        </ForAll>
      )}
      <Steps steps={found.steps} of={found.field_name} />
      <Deciders all={found.deciders} />
    </section>
  );
}

/** The steps of a chain, in order; `of` names what they are of. */
export function Steps({ steps, of }: { steps: readonly Schemas["StepOut"][]; of: string }) {
  const failed = steps.findIndex((step) => step.ok === false);
  return (
    <ol className="mt-2 grid gap-1">
      {steps.map((step, index) => (
        <StepLine key={step.name} step={step} of={of} first={index === failed} after={failed >= 0 && index > failed} />
      ))}
    </ol>
  );
}

/** All that has a say, each a way to where it says so; what is overridden is struck through. */
function Deciders({ all }: { all: readonly Schemas["DeciderOut"][] }) {
  if (all.length === 0) return null;
  return (
    <details className="mt-2.5">
      <summary className="cursor-pointer font-semibold text-ink-2">
        What else decides about this? ({all.length})
      </summary>
      <ul className="mt-1 grid gap-0.5">
        {all.map(({ noun, key, name, says, holds }) => (
          <li key={`${noun} ${key} ${says}`} data-holds={holds} className={holds ? "" : "text-ink-3"}>
            <Link className="link" to={placeOf(noun, key)}>
              {name}
            </Link>{" "}
            <span className={holds ? "text-ink-2" : ""}>{says}</span>
          </li>
        ))}
      </ul>
    </details>
  );
}

/** Whether a product stands on a listing, and by which rule. */
export function WhyListed({ product, noun, thing }: { product: number; noun: string; thing: string }) {
  const found = useQuery(ask.whyListing(product, noun, thing)).data;
  if (!found) return <div className="min-h-[64px] flex-none border-t-2 border-weld bg-sheet" />;
  return (
    <section
      className="scroll max-h-[40%] flex-none border-t-2 border-weld bg-sheet px-[14px] py-2.5"
      aria-label="Why on this listing"
    >
      <h3>
        {found.shows
          ? `Why “${found.title}” stands on ${found.field_name}`
          : `Why is “${found.title}” not on ${found.field_name}?`}
      </h3>
      <Steps steps={found.steps} of={found.title} />
    </section>
  );
}

function StepLine(props: { step: Schemas["StepOut"]; of: string; first: boolean; after: boolean }) {
  const { step, of, first, after } = props;
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
        {step.text}. {step.mend && (first || step.ok === false) && <MendBy mend={step.mend} of={of} />}
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
  device: "not at this width",
};

const FIRST = 24;

/** The fields the proof does not show, each with the first reason; those wanting a value come first. */
export function NotShown({
  product,
  surface,
  device,
  onAsk,
  action,
}: {
  product: number;
  surface: string;
  device: Device;
  onAsk: (field: string) => void;
  action?: ReactNode;
}) {
  const missing = useQuery(ask.missing(product, surface, device)).data?.missing;
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
      <header className="flex items-center justify-between gap-2">
        <h3>Not on this {word}</h3>
        {action}
      </header>
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

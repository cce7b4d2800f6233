import type { Schemas } from "../api/client";
import { RichText } from "./RichText";

type Props = { id: string; label: string; value: string; wrong?: boolean; onFill: (html: string) => unknown };

/** Rich text that is no field of a product: the same editor. */
export function RichBox({ id, label, value, wrong = false, onFill }: Props) {
  const at = {
    field: { name: label, limits: {}, options: {} },
    value: { state: "good", typed: value, value, shown: "", faults: [] },
    example: "",
  } as unknown as Schemas["EditField"];
  return (
    <>
      <span id={`${id}-label`} className="sr">
        {label}
      </span>
      <RichText
        id={id}
        at={at}
        wrong={wrong}
        onFill={(html) => onFill(String(html ?? ""))}
        onTyping={() => undefined}
      />
    </>
  );
}

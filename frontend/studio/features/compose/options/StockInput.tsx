import { useState } from "react";
import { TextBox } from "../../../ui/TextBox";

/** Stock of its own, live at once; empty counts none. */
export function StockInput(props: { name: string; value: number | undefined; onPut: (amount: number | null) => void }) {
  const [wrong, setWrong] = useState(false);
  return (
    <TextBox
      inputMode="numeric"
      aria-label={`Stock of ${props.name}`}
      placeholder="any"
      wrong={wrong}
      value={props.value === undefined ? "" : String(props.value)}
      onCommit={(text) => {
        const digits = text.trim();
        const sound = /^\d*$/.test(digits);
        setWrong(!sound);
        if (sound) props.onPut(digits === "" ? null : Number(digits));
      }}
    />
  );
}

import { Segments } from "../ui/basics";
import { ForAll } from "../ui/rights";
import type { Device } from "./DeviceFrame";

/** The width a page is proved at; the usual one is no part of the address. */
export function Widths(props: { value: Device; usual: Device; onChoose: (device: Device | null) => void }) {
  return (
    <ForAll>
      <Segments<Device>
        label="Width"
        value={props.value}
        choices={[
          ["phone", "Phone"],
          ["tablet", "Tablet"],
          ["desktop", "Desktop"],
        ]}
        onChoose={(next) => props.onChoose(next === props.usual ? null : next)}
      />
    </ForAll>
  );
}

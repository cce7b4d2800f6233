import { ArrowLeft, ArrowRight, X } from "lucide-react";
import type { ReactNode } from "react";
import { useMay } from "./rights";

type Props = {
  /** What is moved or taken off, such as `picture 2`. */
  name: string;
  index: number;
  count: number;
  /** Left out where the order is not by hand. */
  onMove?: (to: number) => void;
  onTakeOff: () => void;
};

/** Moving one of several values earlier or later, and taking it off. */
export function ItemButtons({ name, index, count, onMove, onTakeOff }: Props) {
  if (!useMay("edit")) return null;
  return (
    <>
      {onMove && count > 1 && (
        <>
          <IconButton label={`Put ${name} earlier`} disabled={index === 0} onClick={() => onMove(index - 1)}>
            <ArrowLeft size={14} />
          </IconButton>
          <IconButton label={`Put ${name} later`} disabled={index === count - 1} onClick={() => onMove(index + 1)}>
            <ArrowRight size={14} />
          </IconButton>
        </>
      )}
      <IconButton label={`Take ${name} off`} onClick={onTakeOff}>
        <X size={14} />
      </IconButton>
    </>
  );
}

function IconButton(props: { label: string; disabled?: boolean; onClick: () => void; children: ReactNode }) {
  return (
    <button
      type="button"
      className="grid h-6 w-6 flex-none place-items-center rounded text-ink-2 hover:bg-woad-tint disabled:opacity-30"
      aria-label={props.label}
      title={props.label}
      disabled={props.disabled}
      onClick={props.onClick}
    >
      {props.children}
    </button>
  );
}

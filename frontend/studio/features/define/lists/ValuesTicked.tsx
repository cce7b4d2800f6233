import { Button, counted } from "../../../ui/basics";

type Props = {
  count: number;
  /** Whether all of them are retired already. */
  retired: boolean;
  onRetire: (retired: boolean) => void;
  onMove: (to: "first" | "last") => void;
  onTakeOut: () => void;
  onClear: () => void;
};

/** What can be done with several values at once, as long as some are ticked. */
export function ValuesTicked({ count, retired, onRetire, onMove, onTakeOut, onClear }: Props) {
  if (count === 0) return null;
  return (
    <section
      className="flex flex-none flex-wrap items-center gap-2 bg-woad-tint px-[14px] py-1.5"
      aria-label="Values ticked"
    >
      <strong>{counted(count, "value")} ticked</strong>
      <Button right="edit" onClick={() => onRetire(!retired)}>
        {retired ? "Bring them back" : "Retire them"}
      </Button>
      <Button right="edit" onClick={() => onMove("first")}>
        To the start
      </Button>
      <Button right="edit" onClick={() => onMove("last")}>
        To the end
      </Button>
      <Button right="edit" onClick={onTakeOut}>
        Take them out
      </Button>
      <button type="button" className="link ml-auto" onClick={onClear}>
        untick
      </button>
    </section>
  );
}

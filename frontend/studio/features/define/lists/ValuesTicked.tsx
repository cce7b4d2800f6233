import { Button, counted } from "../../../ui/basics";
import { Ticked } from "../../../ui/Ticked";

type Props = {
  count: number;
  /** Whether all of them are retired already. */
  retired: boolean;
  onRetire: (retired: boolean) => void;
  onMove: (to: "first" | "last") => void;
  /** Merges them all into one; left out where fewer than two are ticked. */
  onMerge?: () => void;
  onTakeOut: () => void;
  onClear: () => void;
};

/** What can be done with several values at once, as long as some are ticked. */
export function ValuesTicked({ count, retired, onRetire, onMove, onMerge, onTakeOut, onClear }: Props) {
  return (
    <Ticked label="Values" count={count} words={counted(count, "value")} onClear={onClear}>
      <Button right="edit" onClick={() => onRetire(!retired)}>
        {retired ? "Bring them back" : "Retire them"}
      </Button>
      <Button right="edit" onClick={() => onMove("first")}>
        To the start
      </Button>
      <Button right="edit" onClick={() => onMove("last")}>
        To the end
      </Button>
      {onMerge && (
        <Button right="edit" onClick={onMerge}>
          Merge them…
        </Button>
      )}
      <Button right="edit" onClick={onTakeOut}>
        Take them out
      </Button>
    </Ticked>
  );
}

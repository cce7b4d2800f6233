import type { Schemas } from "../api/client";

type Remark = Schemas["RemarkOut"];
const LOOKS: Record<string, string> = { no_swatch: "badge-madder", alike: "badge-weld", pale: "badge-woad" };
const MOST = 2;

/** What there is to know of a value's swatch: missing, too pale for the page, hardly told from another. */
export function Remarks({ remarks }: { remarks: readonly Remark[] }) {
  return (
    <span className="grid min-w-0 justify-items-start gap-0.5">
      {remarks.slice(0, MOST).map((remark) => (
        <span
          key={remark.code + remark.other}
          className={`badge-quiet max-w-full truncate ${LOOKS[remark.code] ?? ""}`}
          title={remark.words}
        >
          {remark.sides.length > 0 && <Sides sides={remark.sides} />}
          {remark.words}
        </span>
      ))}
    </span>
  );
}

/** The colours of two values edge to edge, each over the whole height, so that the eye can compare them. */
function Sides({ sides }: { sides: readonly (readonly string[])[] }) {
  const [first = [], second = []] = sides;
  return (
    <svg
      viewBox={`0 0 2 ${first.length}`}
      preserveAspectRatio="none"
      className="mr-1 inline-block h-3.5 w-9"
      aria-hidden="true"
    >
      {[first, second].flatMap((colours, x) =>
        // biome-ignore lint/suspicious/noArrayIndexKey: a colour may stand twice
        colours.map((colour, y) => <rect key={`${x} ${y}`} x={x} y={y} width={1} height={1} fill={colour} />),
      )}
    </svg>
  );
}

/** The remarks of a value of an option; of a value list where no option is named. */
export function remarksOf(remarks: readonly Remark[], code: string, option = ""): Remark[] {
  return remarks.filter((remark) => remark.option === option && remark.value === code);
}

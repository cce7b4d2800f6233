import type { Schemas } from "../api/client";

export type Swatch = Schemas["Swatch"];

export const NO_SWATCH: Swatch = { colours: [], picture: "", short: "" };

/** How a value looks, small: its picture, its colours side by side, or its short label in a box. */
export function SwatchMark({ swatch, size = 18 }: { swatch: Swatch | undefined; size?: number }) {
  const { colours = [], picture = "", short = "" } = swatch ?? {};
  const box = "flex-none rounded-[3px] border border-line";
  if (picture)
    return (
      <img
        src={`/files/${picture}-160.webp`}
        alt=""
        className={`${box} object-cover`}
        style={{ width: size, height: size }}
      />
    );
  if (colours.length > 0)
    return (
      <svg
        viewBox={`0 0 ${colours.length} 1`}
        preserveAspectRatio="none"
        aria-hidden="true"
        className={box}
        style={{ width: size, height: size }}
      >
        {colours.map((colour, index) => (
          // biome-ignore lint/suspicious/noArrayIndexKey: a colour may stand twice
          <rect key={index} x={index} width={1} height={1} fill={colour} />
        ))}
      </svg>
    );
  if (short)
    return (
      <span aria-hidden="true" className={`${box} px-1 text-[10px] font-semibold leading-[16px]`}>
        {short}
      </span>
    );
  return null;
}

import type { Schemas } from "../api/client";

export type Swatch = Schemas["Swatch"];

export const NO_SWATCH: Swatch = { colours: [], picture: "", short: "", focus: [] };

/** How a value looks, small: its picture, its colours side by side, or its short label in a box. */
export function SwatchMark({ swatch, size = 18 }: { swatch: Swatch | undefined; size?: number }) {
  const { colours = [], picture = "", short = "", focus = [] } = swatch ?? {};
  const box = "flex-none rounded-[3px] border border-line";
  if (picture)
    return (
      <span className={`${box} block overflow-hidden`} style={{ width: size, height: size }}>
        <img src={`/files/${picture}-160.webp`} alt="" className="h-full w-full object-cover" style={part(focus)} />
      </span>
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

/** The part of a picture that shows, as styles; its middle where nothing is said. */
function part(focus: readonly number[]): React.CSSProperties {
  const [across, down, near] = focus;
  if (across === undefined || down === undefined || near === undefined) return {};
  const at = `${across / 10}% ${down / 10}%`;
  return { objectPosition: at, transformOrigin: at, transform: `scale(${near / 100})` };
}

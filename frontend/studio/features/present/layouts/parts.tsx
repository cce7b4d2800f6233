import type { Schemas } from "../../../api/client";
import type { Json, Kind } from "./tree";

type Member = Schemas["BlockMemberOut"];
export type MemberProps = {
  id: string;
  member: Member;
  block: Json;
  /** Whose pages the layout is of: products or records. */
  subject: string;
  kind: Kind;
  value: unknown;
  /** Says it otherwise; null takes it back to what is usual. */
  /** Gives a promise where the writing of it can be waited for. */
  onPut: (value: unknown) => unknown;
  /** Changes how many parts there are. */
  onParts: (count: number) => void;
};

export function Chip({ words, onOff }: { words: string; onOff: () => void }) {
  return (
    <li className="flex items-center gap-1 rounded bg-woad-tint pl-2">
      {words}
      <button
        type="button"
        className="grid h-6 w-6 place-items-center"
        aria-label={`Take ${words} off`}
        onClick={onOff}
      >
        ×
      </button>
    </li>
  );
}

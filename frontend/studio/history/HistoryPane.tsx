import { ChangeRows } from "./ChangeRows";

/** What was changed in one thing. */
export function HistoryPane({ noun, thing }: { noun: string; thing: string }) {
  return (
    <section className="flex min-h-0 flex-1 flex-col" aria-label="History">
      <ChangeRows noun={noun} thing={thing} />
    </section>
  );
}

import { Link } from "react-router";
import type { Things } from "../../../api/nouns";
import { OwnFields } from "../../../holding/OwnFields";
import { CollectionCopies } from "./CollectionCopies";

/** What is recorded of a collection, and stands above its listing. */
export function WordsAndPicture({ row }: { row: Things["collection"] }) {
  return (
    <section className="scroll min-h-0 flex-1 px-[14px] py-3" aria-label="Words and picture">
      <p className="hint mb-2">They stand above its listing in the shop.</p>
      <OwnFields noun="collection" row={row} />
      <CollectionCopies row={row} />
      <p className="hint mt-3">
        More can be recorded of collections: make a field in{" "}
        <Link className="link" to="/define/fields">
          Define
        </Link>{" "}
        and say that it is for collections.
      </p>
    </section>
  );
}

import { useQuery } from "@tanstack/react-query";
import { Link } from "react-router";
import { client, data } from "../../../api/client";
import { placeOf } from "../../../api/nouns";
import { ask } from "../../../api/queries";
import { useSaving } from "../../../state/saving";
import { Button, counted } from "../../../ui/basics";

/** The layouts that are the same but for words, what stands in each, and the way to make one layout and a field of them. */
export function Alike({ layout, can, name }: { layout: string; can: boolean; name: (key: string) => string }) {
  const found = useQuery(ask.alikeLayouts(layout)).data;
  const { save } = useSaving();
  if (!found || found.layouts.length === 0) return null;
  const others = found.layouts.filter((key) => key !== layout);
  const fields = counted(found.differing.length, "field");
  const into =
    found.differing.length > 0 ? `one layout and ${found.differing.length === 1 ? "a field" : fields}` : "one layout";
  const make = () =>
    save(() => data(client.POST("/api/layouts/{key}/alike", { params: { path: { key: layout } } })), {
      done: `${counted(found.layouts.length, "layout")} are ${into} now`,
    });
  return (
    <section className="mt-4 rounded bg-weld-tint px-2.5 py-2" aria-label="The same but for words">
      <h3 className="!mt-0">The same but for words</h3>
      <p>
        {others.map((key, index) => (
          <span key={key}>
            {index > 0 && (index === others.length - 1 ? " and " : ", ")}
            <Link className="link" to={placeOf("layout", key)}>
              {name(key)}
            </Link>
          </span>
        ))}{" "}
        could be {into} with this one.
      </p>
      {found.differing.map((passage) => (
        <div key={Object.values(passage.words).join(" ")} className="mt-1.5">
          <h4 className="font-semibold">{passage.name}</h4>
          <dl className="grid grid-cols-[110px_minmax(0,1fr)] gap-x-2">
            {Object.entries(passage.words).map(([key, words]) => (
              <div key={key} className="contents">
                <dt className="truncate text-ink-2">{name(key)}</dt>
                <dd className="truncate" title={words}>
                  {words}
                </dd>
              </div>
            ))}
          </dl>
        </div>
      ))}
      {can && (
        <p className="mt-2">
          <Button look="primary" onClick={() => void make()}>
            Make them {into}
          </Button>
          <span className="hint mt-1 block">
            Pages say what they say now. Words become defaults of types and values of products; this layout stays, under
            its name. One undo takes it back.
          </span>
        </p>
      )}
    </section>
  );
}

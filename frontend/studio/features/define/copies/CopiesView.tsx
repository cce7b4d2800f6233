import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { Link, useParams } from "react-router";
import { placeOf, type Things } from "../../../api/nouns";
import { ask } from "../../../api/queries";
import { useConsider } from "../../../considering/Considering";
import { LastChanged } from "../../../history/LastChanged";
import { RichBox } from "../../../kinds/RichBox";
import { Saved } from "../../../state/saving";
import { useThing } from "../../../state/things";
import { CopyThing } from "../../../things/CopyThing";
import { RemoveThing } from "../../../things/RemoveThing";
import { ExampleProof, ThingPane } from "../../../things/ThingPane";
import { ThingsFrame } from "../../../things/ThingsFrame";
import { counted, Line } from "../../../ui/basics";
import { Differs } from "../../../ui/Differs";
import { IconMark } from "../../../ui/IconMark";
import { Opening } from "../../../ui/Opening";
import { useMay } from "../../../ui/rights";
import { PaneHead } from "../../../ui/Split";
import { TextBox } from "../../../ui/TextBox";

type Copy = Things["shared_copy"];

export default function CopiesView() {
  const { key } = useParams();
  const copies = useQuery(ask.things("shared_copy")).data;
  if (!copies) return <Opening />;
  const here = copies.find(({ thing }) => thing.key === key);
  return (
    <ThingsFrame
      noun="shared_copy"
      here={key}
      rows={copies.map(({ thing }) => ({ key: thing.key, name: thing.name }))}
      note="Words written once, and shown on every product that has a field of them."
      sheet={here && <CopySheet key={here.thing.key} row={here} />}
      pane={
        here && (
          <ThingPane
            what="shared copy"
            noun="shared_copy"
            thing={here.thing.key}
            own={[["places", "Where it shows", <Places key={here.thing.key} row={here} />]]}
            proof={<ExampleProof noun="shared_copy" thing={here.thing.key} field={here.fields[0]?.key} />}
          />
        )
      }
    />
  );
}

function CopySheet({ row }: { row: Copy }) {
  const copy = row.thing;
  const { put: write, remove, current } = useThing("shared_copy", row);
  const [wrong, setWrong] = useState<{ where: string; text: string } | null>(null);
  const consider = useConsider();
  const put = (changes: Parameters<typeof write>[0]) =>
    write(changes, {
      onRefused: ({ problem }) =>
        setWrong({ where: String(problem.where[0] ?? ""), text: `${problem.message}. ${problem.help}` }),
    }).then((answer) => answer && setWrong(null));
  const putTold = (changes: { title?: string; icon?: string; words?: string }) =>
    consider(
      `Change ${copy.name}`,
      { noun: "shared_copy", key: copy.key, changes: changes as Record<string, unknown> },
      () => void put(changes),
    );
  const at = (where: string) => (wrong?.where === where ? wrong.text : null);
  const kept = keepers(row);
  return (
    <>
      <PaneHead title={copy.name} note={<span className="key">{copy.key}</span>}>
        <Saved />
      </PaneHead>
      <div className="scroll min-h-0 flex-1 px-[14px] pb-6">
        <Line label="Name" wrong={at("name")} note="For staff">
          {(id) => <TextBox id={id} value={copy.name} onCommit={(name) => put({ name })} />}
        </Line>
        <Line label="Title" wrong={at("title")}>
          {(id) => <TextBox id={id} value={copy.title ?? ""} onCommit={(title) => putTold({ title })} />}
        </Line>
        <Line label="Icon" wrong={at("icon")}>
          {() => <IconChoice value={copy.icon ?? ""} onChoose={(icon) => putTold({ icon })} />}
        </Line>
        <p className="band -mx-[14px] mt-2">Words</p>
        <div className="pt-2">
          <RichBox
            id="shared-words"
            label="The shared words"
            value={copy.words ?? ""}
            wrong={at("words") !== null}
            onFill={(words) => words !== current().thing.words && putTold({ words })}
          />
          {at("words") && (
            <p className="wrongly mt-1" role="alert">
              {at("words")}
            </p>
          )}
          <p className="hint mt-1">
            {kept ? `${kept}, and a change of these leaves those as they are: see at the right.` : NO_OTHERS}
          </p>
        </div>
        <CopyThing noun="shared_copy" thing={copy.key} name={copy.name} />
        <RemoveThing what="shared copy" noun="shared_copy" name={copy.name} remove={remove} to="/define/copies" />
        <span className="hint ml-2">only when no field shows it</span>
      </div>
    </>
  );
}

const NO_OTHERS = "Every place follows these words.";

/** Who keeps words of their own, in a line; nothing where nobody does. */
function keepers(row: Copy): string {
  const collections = Object.keys(row.thing.own ?? {}).length;
  const parts = [
    row.own_products > 0 && counted(row.own_products, "product"),
    collections > 0 && counted(collections, "collection"),
  ].filter(Boolean);
  if (parts.length === 0) return "";
  const one = row.own_products + collections === 1;
  return `${parts.join(" and ")} ${one ? "keeps words of its own" : "keep words of their own"}`;
}

function IconChoice({ value, onChoose }: { value: string; onChoose: (code: string) => void }) {
  const icons = useQuery(ask.meta()).data?.icons ?? [];
  const may = useMay("edit");
  return (
    <fieldset className="flex flex-wrap gap-1" aria-label="Icon">
      {[{ code: "", name: "none" }, ...icons].map(({ code, name }) => (
        <button
          key={code}
          type="button"
          className={`grid h-8 w-8 place-items-center rounded border ${code === value ? "border-woad bg-woad-tint text-woad" : "border-line"}`}
          aria-pressed={code === value}
          disabled={!may}
          aria-label={name}
          title={name}
          onClick={() => code !== value && onChoose(code)}
        >
          {code ? <IconMark code={code} /> : <span className="text-ink-3">none</span>}
        </button>
      ))}
    </fieldset>
  );
}

/** The fields that show it, and the places that keep their own words, with what differs. */
function Places({ row }: { row: Copy }) {
  const { key } = row.thing;
  const places = useQuery(ask.ownWords(key)).data?.places ?? [];
  return (
    <section className="scroll min-h-0 flex-1 px-[14px] py-3">
      <h3>Which fields show it</h3>
      {row.fields.length === 0 ? (
        <p className="hint mt-1">
          None yet:{" "}
          <Link className="link" to={`/define/fields?new=1&kind=shared_words&copy=${key}`}>
            make a field of it
          </Link>{" "}
          and give that to a set or type.
        </p>
      ) : (
        <ul>
          {row.fields.map((field) => (
            <li key={field.key} className="mt-1">
              <Link className="link" to={placeOf("field", field.key)}>
                {field.name}
              </Link>{" "}
              <span className="text-ink-3">{field.types.join(", ") || "no type has it yet"}</span>
            </li>
          ))}
        </ul>
      )}
      <LastChanged noun="shared_copy" thing={key} />
      <h3 className="mt-4">Which places keep their own words</h3>
      {places.length === 0 && <p className="hint mt-1">{NO_OTHERS}</p>}
      <ul>
        {places.map((place) => (
          <li key={`${place.noun}/${place.key}`} className="mt-2">
            <Link className="link" to={placeOf(place.noun, place.key)}>
              {place.name}
            </Link>{" "}
            <span className="text-ink-3">{place.noun}</span>
            <Differs pieces={place.differs} />
          </li>
        ))}
      </ul>
    </section>
  );
}

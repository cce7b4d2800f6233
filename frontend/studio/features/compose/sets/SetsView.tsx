import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { Link, useParams } from "react-router";
import type { Schemas } from "../../../api/client";
import type { Things } from "../../../api/nouns";
import { ask } from "../../../api/queries";
import { useConsider } from "../../../considering/Considering";
import { Saved } from "../../../state/saving";
import { useThing } from "../../../state/things";
import { FieldPicker, FieldsPicker } from "../../../things/FieldPicker";
import { ExampleProof, ThingPane } from "../../../things/ThingPane";
import { ThingsFrame } from "../../../things/ThingsFrame";
import { Button, counted, Empty } from "../../../ui/basics";
import { focusOnceThere } from "../../../ui/focus";
import { Opening } from "../../../ui/Opening";
import { moved, SortableList, SortableRow } from "../../../ui/Sortable";
import { PaneHead } from "../../../ui/Split";
import { TextBox } from "../../../ui/TextBox";
import { Tick } from "../../../ui/Ticked";
import { useTicks } from "../../../ui/useTicks";
import { SetUse } from "./SetUse";
import { gathered, Several } from "./Several";

type Section = Schemas["Section"];

export default function SetsView() {
  const { key } = useParams();
  const sets = useQuery(ask.things("field_set")).data;
  const fields = useQuery(ask.things("field")).data;
  // Fields are called by their names from the first.
  if (!sets || !fields) return <Opening />;
  const here = sets.find(({ thing }) => thing.key === key);
  return (
    <ThingsFrame
      noun="field_set"
      here={key}
      rows={sets.map(({ thing }) => ({
        key: thing.key,
        name: thing.name,
        count: thing.sections.flatMap((section) => section.fields).length,
      }))}
      sheet={here && <SetSheet key={here.thing.key} row={here} />}
      pane={
        here && (
          <ThingPane
            what="set"
            noun="field_set"
            thing={here.thing.key}
            own={[["use", "Use", <SetUse key="use" row={here} />]]}
            proof={<ExampleProof noun="field_set" thing={here.thing.key} />}
          />
        )
      }
    />
  );
}

/** Move a field to a place among all fields of all sections; past the end of one section begins the next. */
export function moveField(sections: readonly Section[], from: [number, number], by: -1 | 1): Section[] {
  const next = sections.map((section) => ({ ...section, fields: [...section.fields] }));
  const source = next[from[0]];
  const field = source?.fields[from[1]];
  if (!source || field === undefined) return next;
  const to = from[1] + by;
  if (to >= 0 && to < source.fields.length) {
    source.fields = moved(source.fields, from[1], to);
    return next;
  }
  const other = next[from[0] + by];
  if (!other) return next;
  source.fields.splice(from[1], 1);
  if (by === 1) other.fields.unshift(field);
  else other.fields.push(field);
  return next;
}

function SetSheet({ row }: { row: Things["field_set"] }) {
  const set = row.thing;
  const { put: write } = useThing("field_set", row);
  const fields = useQuery(ask.things("field")).data ?? [];
  const consider = useConsider();
  const [wrong, setWrong] = useState<string | null>(null);
  const put = (changes: Parameters<typeof write>[0], done?: string) =>
    write(changes, {
      done,
      onRefused: ({ problem }) => setWrong(`${problem.message}. ${problem.help}`),
    }).then((answer) => answer && setWrong(null));
  const putFields = (sections: Section[], title: string) =>
    consider(title, { noun: "field_set", key: set.key, changes: { sections } }, () => void put({ sections }, title));
  const nameOf = (key: string) => fields.find(({ thing }) => thing.key === key)?.thing.name ?? key;
  const ids = set.sections.flatMap((section) => [`§${section.key}`, ...section.fields]);

  function drop(from: number, to: number) {
    const order = moved(ids, from, to);
    if (order[0] !== ids[0] && ids[from]?.startsWith("§") === false && !order[0]?.startsWith("§")) return;
    const sections: Section[] = [];
    for (const id of order) {
      if (id.startsWith("§")) {
        const section = set.sections.find((section) => section.key === id.slice(1));
        if (section) sections.push({ ...section, fields: [] });
      } else sections.at(-1)?.fields.push(id);
    }
    void put({ sections });
  }
  function addSection() {
    const taken = new Set(set.sections.map((section) => section.key));
    let number = set.sections.length + 1;
    while (taken.has(`s${number}`)) number += 1;
    const name = `Section ${number}`;
    void put({ sections: [...set.sections, { key: `s${number}`, name, fields: [] }] });
    // Its name is typed at once; what it was called till then goes.
    focusOnceThere(() => {
      const box = document.querySelector<HTMLInputElement>(`[aria-label="Name of section ${name}"]`);
      box?.select();
      return box;
    });
  }
  const taken = new Set(set.sections.flatMap((section) => section.fields));
  const { ticked, tick, clear } = useTicks(set.sections.flatMap((section) => section.fields));
  return (
    <>
      <PaneHead
        title={set.name}
        note={`${counted(taken.size, "field")}, on ${counted(row.products, "product")} ${set.collections.length ? `in ${counted(set.collections.length, "collection")}` : `of ${counted(row.types.length, "type")}`}`}
      >
        <Saved />
        <Button right="edit" onClick={addSection}>
          Add section
        </Button>
      </PaneHead>
      <div className="px-[14px] pb-2">
        <label htmlFor="name" className="flex items-center gap-3 text-ink-2">
          Name
          <TextBox id="name" className="!w-64" value={set.name} onCommit={(name) => put({ name })} />
        </label>
        {wrong && (
          <p className="wrongly mt-1" role="alert">
            {wrong}
          </p>
        )}
      </div>
      <Several
        ticked={ticked}
        sections={set.sections}
        onMove={(to) => {
          clear();
          void put((now) => ({ sections: gathered(now.sections, ticked, to) }));
        }}
        onTakeOff={() =>
          putFields(
            set.sections.map((section) => ({ ...section, fields: section.fields.filter((key) => !ticked.has(key)) })),
            `Take ${[...ticked].map(nameOf).join(", ")} off ${set.name}`,
          )
        }
        onClear={clear}
      />
      <div className="scroll min-h-0 flex-1 pb-6">
        <SortableList ids={ids} onMove={drop}>
          {set.sections.map((section, index) => (
            <section key={section.key} aria-label={section.name}>
              <SectionHead
                section={section}
                first={index === 0}
                taken={taken}
                removable={set.sections.length > 1 && section.fields.length === 0}
                onStep={(by) => index + by >= 0 && put({ sections: moved(set.sections, index, index + by) })}
                onName={(name) =>
                  put({ sections: set.sections.map((other, at) => (at === index ? { ...other, name } : other)) })
                }
                onAdd={(keys) =>
                  putFields(
                    set.sections.map((other, at) =>
                      at === index ? { ...other, fields: [...other.fields, ...keys] } : other,
                    ),
                    `Add ${keys.map(nameOf).join(", ")} to ${set.name}`,
                  )
                }
                onRemove={() =>
                  put(
                    { sections: set.sections.filter((other) => other !== section) },
                    `Section ${section.name} removed`,
                  )
                }
              />
              {section.fields.map((key, at) => (
                <SortableRow
                  key={key}
                  id={key}
                  name={nameOf(key)}
                  className="border-b border-line px-1 py-[2px]"
                  onStep={(by) => put({ sections: moveField(set.sections, [index, at], by) })}
                >
                  <Tick name={nameOf(key)} ticked={ticked.has(key)} onTick={(range) => tick(key, range)} />
                  <Link className="min-w-0 flex-1 truncate hover:underline" to={`/define/fields/${key}`}>
                    {nameOf(key)}
                  </Link>
                  <span className="key w-44 truncate">{key}</span>
                  <Button
                    right="edit"
                    look="quiet"
                    aria-label={`Take off ${nameOf(key)}`}
                    onClick={() =>
                      putFields(
                        set.sections.map((other) => ({
                          ...other,
                          fields: other.fields.filter((other) => other !== key),
                        })),
                        `Take ${nameOf(key)} off ${set.name}`,
                      )
                    }
                  >
                    Take off
                  </Button>
                </SortableRow>
              ))}
            </section>
          ))}
        </SortableList>
        {taken.size === 0 && (
          <Empty title="No fields in this set yet">
            Add the first one with “Add field”. Values a product has already are kept when a field is taken off.
          </Empty>
        )}
      </div>
    </>
  );
}

/** The head of a section: its name, adding fields to it, and removing it while it is empty. */
function SectionHead(props: {
  section: Section;
  first: boolean;
  taken: ReadonlySet<string>;
  removable: boolean;
  onStep: (by: -1 | 1) => void;
  onName: (name: string) => void;
  onAdd: (keys: string[]) => void;
  onRemove: () => void;
}) {
  const { section } = props;
  return (
    <SortableRow
      id={`§${section.key}`}
      name={section.name}
      disabled={props.first}
      className="border-y border-line bg-cloth py-1 pr-3 pl-1"
      onStep={props.onStep}
    >
      <TextBox
        aria-label={`Name of section ${section.name}`}
        className={`!w-56 !bg-transparent !border-transparent font-semibold ${props.first ? "ml-7" : ""}`}
        value={section.name}
        onCommit={props.onName}
      />
      <span className="ml-auto flex gap-1">
        <FieldPicker label="Add field" next={props.first} taken={props.taken} onPick={(key) => props.onAdd([key])} />
        <FieldsPicker label="Add several" taken={props.taken} onPick={props.onAdd} />
        {props.removable && (
          <Button right="edit" look="quiet" onClick={props.onRemove}>
            Remove
          </Button>
        )}
      </span>
    </SortableRow>
  );
}

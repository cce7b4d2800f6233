import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { Link, useParams } from "react-router";
import type { Things } from "../../../api/nouns";
import { ask } from "../../../api/queries";
import { useConsider } from "../../../considering/Considering";
import { HistoryPane } from "../../../history/HistoryPane";
import { LastChanged } from "../../../history/LastChanged";
import { Saved } from "../../../state/saving";
import { useThing } from "../../../state/things";
import { CopyThing } from "../../../things/CopyThing";
import { FieldPicker } from "../../../things/FieldPicker";
import { RemoveThing } from "../../../things/RemoveThing";
import { ThingsFrame } from "../../../things/ThingsFrame";
import { Button, counted, Empty, FillBar } from "../../../ui/basics";
import { Input } from "../../../ui/inputs";
import { Opening } from "../../../ui/Opening";
import { moved, SortableList, SortableRow } from "../../../ui/Sortable";
import { PaneHead } from "../../../ui/Split";
import { TextBox } from "../../../ui/TextBox";

export default function RecordTypesView() {
  const { key } = useParams();
  const types = useQuery(ask.things("record_type")).data;
  if (!types) return <Opening />;
  const here = types.find(({ thing }) => thing.key === key);
  return (
    <ThingsFrame
      noun="record_type"
      here={key}
      rows={types.map(({ thing, records }) => ({ key: thing.key, name: thing.name, count: records }))}
      sheet={here && <TypeSheet key={here.thing.key} row={here} />}
      pane={
        here && (
          <>
            <h2 className="px-[14px] pt-3">What was changed</h2>
            <HistoryPane noun="record_type" thing={here.thing.key} />
          </>
        )
      }
    />
  );
}

function TypeSheet({ row }: { row: Things["record_type"] }) {
  const type = row.thing;
  const { put: write, remove } = useThing("record_type", row);
  const fields = useQuery(ask.things("field")).data ?? [];
  const consider = useConsider();
  const [wrong, setWrong] = useState<string | null>(null);
  const put = (changes: Parameters<typeof write>[0], done?: string) =>
    write(changes, {
      done,
      onRefused: ({ problem }) => setWrong(`${problem.message}. ${problem.help}`),
    }).then((answer) => answer && setWrong(null));
  const found = (key: string) => fields.find(({ thing }) => thing.key === key);
  const nameOf = (key: string) => found(key)?.thing.name ?? key;
  const kinds = useQuery(ask.meta()).data?.kinds ?? [];
  const kindName = (code = "") => kinds.find((kind) => kind.code === code)?.name ?? code.replaceAll("_", " ");
  const pages = (page: boolean) => {
    const title = page ? `Give every ${type.name} a page` : `Take the pages of ${type.name} away`;
    consider(title, { noun: "record_type", key: type.key, changes: { page } }, () => void put({ page }, title));
  };
  return (
    <>
      <PaneHead
        title={type.name}
        note={
          <>
            <span className="key mr-2">{type.key}</span>
            <Link className="link" to={`/fill/records?type=${type.key}`}>
              {counted(row.records, "record")}
            </Link>
          </>
        }
      >
        <Saved />
        <FieldPicker
          label="Add field"
          next
          subject="record"
          taken={new Set(type.fields)}
          onPick={(key) =>
            void put((thing) => ({ fields: [...(thing.fields ?? []), key] }), `${nameOf(key)} added to ${type.name}`)
          }
        />
      </PaneHead>
      <div className="flex flex-wrap items-center gap-x-5 gap-y-1 px-[14px] pb-2">
        <label htmlFor="name" className="flex items-center gap-3 text-ink-2">
          Name
          <TextBox id="name" className="!w-56" value={type.name} onCommit={(name) => put({ name })} />
        </label>
        <label className="flex items-center gap-1.5">
          <Input
            type="checkbox"
            className="tick"
            checked={type.page ?? false}
            onChange={(event) => pages(event.target.checked)}
          />
          each has a page in the shop, listing what refers to it
        </label>
      </div>
      {wrong && (
        <p className="wrongly px-[14px] pb-1" role="alert">
          {wrong}
        </p>
      )}
      <div className="scroll min-h-0 flex-1 pb-6">
        <SortableList
          ids={type.fields ?? []}
          onMove={(from, to) => void put((thing) => ({ fields: moved(thing.fields ?? [], from, to) }))}
        >
          {(type.fields ?? []).map((key, index) => (
            <SortableRow
              key={key}
              id={key}
              name={nameOf(key)}
              className="border-b border-line px-1 py-[2px]"
              onStep={(by) => void put((thing) => ({ fields: moved(thing.fields ?? [], index, index + by) }))}
            >
              <Link className="min-w-0 flex-1 truncate hover:underline" to={`/define/fields/${key}`}>
                {nameOf(key)}
              </Link>
              <span className="w-28 truncate text-ink-3">{kindName(found(key)?.thing.kind)}</span>
              <span className="key w-44 truncate">{key}</span>
              <Button
                right="edit"
                look="quiet"
                aria-label={`Take off ${nameOf(key)}`}
                onClick={() =>
                  void put(
                    (thing) => ({ fields: (thing.fields ?? []).filter((other) => other !== key) }),
                    `${nameOf(key)} taken off ${type.name}`,
                  )
                }
              >
                Take off
              </Button>
            </SortableRow>
          ))}
        </SortableList>
        {(type.fields ?? []).length === 0 && (
          <Empty title="No fields yet">
            Make one in <Link to={`/define/fields?new=1&into=record_type/${type.key}`}>Define</Link>, or add one that
            records have already. A record has a name without any.
          </Empty>
        )}
        <div className="px-[14px] pt-4">
          <h3>Which fields choose of its records</h3>
          {row.fields.length === 0 ? (
            <p className="hint mt-1">
              None yet: <Link to={`/define/fields?new=1&kind=record&of=${type.key}`}>make a field</Link> of kind record,
              and give it to a product type.
            </p>
          ) : (
            <p className="mt-1">{row.fields.join(", ")}</p>
          )}
          {row.values > 0 && (
            <p className="mt-3 flex items-center gap-2">
              <FillBar share={Math.round((100 * row.filled) / row.values)} />{" "}
              {Math.round((100 * row.filled) / row.values)} % of what its records could hold is filled
            </p>
          )}
          <LastChanged noun="record_type" thing={type.key} />
          <p className="mt-3">
            <Link className="btn" to={`/fill/records?type=${type.key}&new=1`}>
              Make a record of it
            </Link>
          </p>
          <CopyThing
            noun="record_type"
            thing={type.key}
            name={type.name}
            note="with the same fields and no record yet"
          />
          <RemoveThing what="record type" noun="record_type" name={type.name} remove={remove} to="/define/records" />
        </div>
      </div>
    </>
  );
}

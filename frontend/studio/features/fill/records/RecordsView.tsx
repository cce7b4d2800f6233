import { useInfiniteQuery, useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { Link, useParams, useSearchParams } from "react-router";
import { client, data } from "../../../api/client";
import { placeOf, type Things } from "../../../api/nouns";
import { ask } from "../../../api/queries";
import { useConsider } from "../../../considering/Considering";
import { OwnFields } from "../../../holding/OwnFields";
import { Saved } from "../../../state/saving";
import { useThing } from "../../../state/things";
import { RemoveThing } from "../../../things/RemoveThing";
import { ExampleProof, ThingPane } from "../../../things/ThingPane";
import { ThingsFrame } from "../../../things/ThingsFrame";
import { useAddress } from "../../../ui/address";
import { counted, Empty, Line } from "../../../ui/basics";
import { Opening } from "../../../ui/Opening";
import { ForAll } from "../../../ui/rights";
import { Select } from "../../../ui/Select";
import { PaneHead } from "../../../ui/Split";
import { TextBox } from "../../../ui/TextBox";

function useRecords(type: string | null, words: string) {
  return useInfiniteQuery({
    queryKey: ["records", type, words],
    initialPageParam: 0,
    queryFn: ({ pageParam }) =>
      data(client.GET("/api/records", { params: { query: { type: type ?? undefined, words, offset: pageParam } } })),
    getNextPageParam: (last) => last.next,
    placeholderData: (old) => old,
  });
}

export default function RecordsView() {
  const types = useQuery(ask.things("record_type")).data;
  if (!types) return <Opening />;
  if (types.length === 0)
    return (
      <Empty title="No records yet">
        Records are things that products refer to, such as makers. Say what sorts there are in{" "}
        <Link to="/define/records?new=1">Define, under Record types</Link>.
      </Empty>
    );
  return <Records types={types} />;
}

function Records({ types }: { types: Things["record_type"][] }) {
  const { key } = useParams();
  const [params] = useSearchParams();
  const [type, setType] = useAddress("type");
  const [words, setWords] = useAddress("q");
  const [newType, setNewType] = useState("");
  const found = useRecords(type, words ?? "");
  const opened = useQuery({ ...ask.record(key ?? ""), enabled: Boolean(key) }).data;
  if (!found.data) return <Opening />;
  const rows = found.data.pages.flatMap((page) => page.rows);
  const here = (opened ?? rows.find(({ thing }) => thing.key === key)) as Things["record"] | undefined;
  const chosen = newType || type || types[0]?.thing.key || "";
  return (
    <ThingsFrame
      noun="record"
      here={key}
      search={params.toString()}
      rows={rows.map(({ thing }) => ({ key: thing.key, name: thing.name }))}
      opened={here !== undefined}
      finds={{
        text: words ?? "",
        onText: setWords,
        total: found.data.pages[0]?.total ?? 0,
        pages: found,
        settled: !found.isPlaceholderData,
      }}
      filter={
        types.length > 1 && (
          <ForAll>
            <Select
              className="input mt-2"
              aria-label="Which records"
              value={type ?? ""}
              onChange={(event) => setType(event.target.value || null)}
            >
              <option value="">every record</option>
              {types.map(({ thing, records }) => (
                <option key={thing.key} value={thing.key}>
                  {thing.name} ({records})
                </option>
              ))}
            </Select>
          </ForAll>
        )
      }
      more={{ type: chosen }}
      choices={
        <label className="mt-2 block">
          Record type
          <Select className="input mt-1" value={chosen} onChange={(event) => setNewType(event.target.value)}>
            {types.map(({ thing }) => (
              <option key={thing.key} value={thing.key}>
                {thing.name}
              </option>
            ))}
          </Select>
        </label>
      }
      sheet={here && <RecordSheet key={here.thing.key} row={here} />}
      pane={
        here && (
          <ThingPane
            what="record"
            noun="record"
            thing={here.thing.key}
            own={[["uses", "Referred to by", <UsedBy key={here.thing.key} row={here} />]]}
            proof={
              <ExampleProof
                noun="record"
                thing={here.thing.key}
                listing={
                  here.page
                    ? { proof: `/proof/record/${here.thing.key}`, noun: "record", key: here.thing.key, first: true }
                    : undefined
                }
              />
            }
          />
        )
      }
    />
  );
}

function RecordSheet({ row }: { row: Things["record"] }) {
  const { thing } = row;
  const { put: write, remove } = useThing("record", row);
  const [wrong, setWrong] = useState<{ where: string; text: string } | null>(null);
  const consider = useConsider();
  const put = (changes: Parameters<typeof write>[0], title: string) =>
    consider(
      title,
      { noun: "record", key: thing.key, changes: changes as Record<string, unknown> },
      () =>
        void write(changes, {
          onRefused: ({ problem }) =>
            setWrong({ where: String(problem.where[0] ?? ""), text: `${problem.message}. ${problem.help}` }),
        }).then((answer) => answer && setWrong(null)),
    );
  const at = (where: string) => (wrong?.where === where ? wrong.text : null);
  return (
    <>
      <PaneHead
        title={thing.name}
        note={
          <>
            <span className="key mr-2">{thing.key}</span>
            <Link className="link" to={placeOf("record_type", thing.type ?? "")}>
              {row.type_name}
            </Link>
            {row.required_missing > 0 && (
              <span className="wrongly ml-2">{counted(row.required_missing, "required field")} not filled</span>
            )}
          </>
        }
      >
        <Saved />
      </PaneHead>
      <div className="scroll min-h-0 flex-1 px-[14px] pb-6">
        <Line label="Name" wrong={at("name")}>
          {(id) => <TextBox id={id} value={thing.name} onCommit={(name) => put({ name }, `Rename ${thing.name}`)} />}
        </Line>
        <Line
          label="Address"
          wrong={at("slug")}
          note={row.page ? `/shop/c/${thing.slug}` : "It has no page: its type says so"}
        >
          {(id) => (
            <TextBox
              id={id}
              className="font-mono"
              value={thing.slug ?? ""}
              onCommit={(slug) => put({ slug }, `Change the address of ${thing.name}`)}
            />
          )}
        </Line>
        <p className="band -mx-[14px] mt-2">{row.type_name}</p>
        <div className="pt-2">
          <OwnFields
            noun="record"
            row={row}
            empty={
              <p className="hint">
                A {row.type_name} has no fields yet: add some in{" "}
                <Link className="link" to={placeOf("record_type", thing.type ?? "")}>
                  Define
                </Link>
                .
              </p>
            }
          />
        </div>
        <RemoveThing
          what="record"
          noun="record"
          name={thing.name}
          remove={remove}
          to={`/fill/records?type=${thing.type}`}
        />
        <span className="hint ml-2">only when nothing refers to it</span>
      </div>
    </>
  );
}

/** What refers to a record by its values, each to be opened. */
function UsedBy({ row }: { row: Things["record"] }) {
  const uses = useQuery(ask.uses("record", row.thing.key)).data?.uses;
  if (!uses) return null;
  return (
    <section className="scroll min-h-0 flex-1 px-[14px] py-3">
      <h3>What refers to it</h3>
      {uses.length === 0 && <p className="hint mt-1">Nothing does yet.</p>}
      <ul>
        {uses.map((use) => (
          <li key={`${use.noun}/${use.key}`} className="mt-1 flex gap-2">
            <Link className="link min-w-0 truncate" to={placeOf(use.noun, use.key)}>
              {use.name}
            </Link>
            <span className="flex-none text-ink-3">{use.noun.replaceAll("_", " ")}</span>
          </li>
        ))}
      </ul>
      {uses.length >= MOST_TOLD && <p className="hint mt-2">These are the first; its page lists all of them.</p>}
    </section>
  );
}

const MOST_TOLD = 50;

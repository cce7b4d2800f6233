import { useInfiniteQuery, useQuery } from "@tanstack/react-query";
import { Link } from "react-router";
import { client, data, type Schemas } from "../../../api/client";
import type { Things } from "../../../api/nouns";
import { ask } from "../../../api/queries";
import { Button, Empty } from "../../../ui/basics";
import { number } from "../../../ui/locale";
import { Select } from "../../../ui/Select";
import { moved, SortableList, SortableRow } from "../../../ui/Sortable";
import { useLoadOn } from "../../../ui/useLoadOn";
import { type Hand, useGathering } from "./useGathering";

type Member = Schemas["MemberOut"];
const NTH = ["1st", "2nd", "3rd"];

/** The products of a collection in the order shoppers see, each with how it got in; those picked are put in order here. */
export function MembersPane({ row }: { row: Things["collection"] }) {
  const { key, picked, order } = row.thing;
  const { put, hand } = useGathering("collection", row);
  const fields = useQuery(ask.askedFields()).data?.fields ?? [];
  const found = useInfiniteQuery({
    queryKey: ["members", key],
    initialPageParam: 0,
    queryFn: ({ pageParam }) =>
      data(client.GET("/api/collections/{key}/members", { params: { path: { key }, query: { offset: pageParam } } })),
    getNextPageParam: (last) => last.next,
    placeholderData: (old) => old,
  });
  const end = useLoadOn(found);
  const rows = found.data?.pages.flatMap((page) => page.rows) ?? [];
  const first = found.data?.pages[0];
  const ids = picked.map(String);
  /** Move one of those picked: by what stands when its turn comes, so that nothing put in meanwhile is lost. */
  const move = (id: number, to: number) =>
    put((thing) => {
      const from = thing.picked.indexOf(id);
      return from < 0 ? {} : { picked: moved(thing.picked, from, Math.max(0, Math.min(thing.picked.length - 1, to))) };
    });
  return (
    <section className="flex min-h-0 flex-1 flex-col" aria-label="Products of the collection">
      <div className="flex flex-none flex-wrap items-center gap-2 border-b border-line bg-cloth px-[14px] py-2">
        <span className="min-w-0 flex-1">{number(first?.total ?? 0)}, in the order shoppers see</span>
        <label className="flex items-center gap-1.5">
          then by
          <Select
            className="input !w-auto max-w-[150px]"
            aria-label="Order of those not put in by hand"
            value={order}
            onChange={(event) => put({ order: event.target.value })}
          >
            <option value="title">title</option>
            <option value="newest">newest first</option>
            {fields
              .filter((field) => !["type", "title"].includes(field.key))
              .map((field) => (
                <option key={field.key} value={field.key}>
                  {field.name}
                </option>
              ))}
          </Select>
        </label>
      </div>
      <div className="scroll min-h-0 flex-1 bg-sheet">
        <SortableList ids={ids} onMove={(from, to) => void move(Number(ids[from]), to)}>
          {rows.map((member) => (
            <Row
              key={member.id}
              member={member}
              place={picked.indexOf(member.id)}
              onStep={(by) => void move(member.id, picked.indexOf(member.id) + by)}
              onHand={(to, done) => hand([member.id], to, done, done)}
            />
          ))}
        </SortableList>
        <div ref={end} className="h-4" />
        {first && first.total === 0 && (
          <Empty title="No product is in it yet">
            Say in the middle what holds for them, or put some in by hand. Shoppers see it after the next release.
          </Empty>
        )}
        {first && first.kept_out.length > 0 && (
          <>
            <p className="band">Kept out by hand</p>
            {first.kept_out.map((member) => (
              <div key={member.id} className="flex items-center gap-2.5 border-b border-line px-3 py-1.5">
                <Thumb member={member} faded />
                <span className="min-w-0 flex-1 truncate text-ink-3 line-through">{member.title}</span>
                <Button
                  right="edit"
                  look="quiet"
                  aria-label={`Let in again ${member.title}`}
                  onClick={() => {
                    const title = `${member.title} is kept out no longer`;
                    hand([member.id], "neither", title, title);
                  }}
                >
                  Let in again
                </Button>
              </div>
            ))}
          </>
        )}
      </div>
    </section>
  );
}

function Row(props: {
  member: Member;
  place: number;
  onStep: (by: -1 | 1) => void;
  onHand: (to: Hand, done: string) => void;
}) {
  const { member, place } = props;
  const isPicked = place >= 0;
  const how = isPicked ? `${NTH[place] ?? `${place + 1}th`}, by hand` : member.reason;
  return (
    <SortableRow
      id={String(member.id)}
      name={member.title}
      disabled={!isPicked}
      className="border-b border-line py-1 pr-2 pl-1"
      onStep={props.onStep}
    >
      {!isPicked && <span className="w-6 flex-none" />}
      <Thumb member={member} />
      <span className="ml-1.5 min-w-0 flex-1">
        <Link className="block truncate hover:underline" to={`/fill/products/${member.id}`} title={member.title}>
          {member.title}
        </Link>
        <span className="block truncate text-[12px] text-ink-3" title={how}>
          {how}
          {!member.offered && ", kept out of the shop"}
        </span>
      </span>
      {isPicked ? (
        <Button
          right="edit"
          look="quiet"
          aria-label={`Take out ${member.title}`}
          onClick={() => props.onHand("neither", `${member.title} is no longer put in by hand`)}
        >
          Take out
        </Button>
      ) : (
        <>
          <Button
            right="edit"
            look="quiet"
            aria-label={`Pick ${member.title}, to stand first`}
            onClick={() => props.onHand("picked", `${member.title} put in by hand`)}
          >
            Pick
          </Button>
          <Button
            right="edit"
            look="quiet"
            aria-label={`Keep out ${member.title}`}
            onClick={() => props.onHand("kept_out", `${member.title} kept out`)}
          >
            Keep out
          </Button>
        </>
      )}
    </SortableRow>
  );
}

function Thumb({ member, faded }: { member: Member; faded?: boolean }) {
  if (!member.picture) return <span className="woven h-9 w-9 flex-none rounded-[3px] border border-line" />;
  return (
    <img
      src={`/files/${member.picture}-160.webp`}
      alt=""
      loading="lazy"
      width={36}
      height={36}
      className={`h-9 w-9 flex-none rounded-[3px] object-cover ${faded ? "opacity-40" : ""}`}
    />
  );
}

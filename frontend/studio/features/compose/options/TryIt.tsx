import { keepPreviousData, useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { Link } from "react-router";
import { client, data, Refused, type Schemas } from "../../../api/client";
import { PRODUCT, placeOf, type Things } from "../../../api/nouns";
import { ask } from "../../../api/queries";
import { Button, counted, Popover } from "../../../ui/basics";
import { ForAll } from "../../../ui/rights";
import { TextBox } from "../../../ui/TextBox";
import { Chooser } from "./Chooser";
import { useMakers } from "./useOptionSet";

type Tried = Schemas["TriedSetOut"];
type Choices = Record<string, unknown>;

/** The set as shoppers meet it: choices that work, what they cost and weigh, and the variants there are. */
export function TryIt({ row }: { row: Things["option_set"] }) {
  const [choices, setChoices] = useState<Choices | null>(null);
  const [quantity, setQuantity] = useState(1);
  const [product, setProduct] = useState<number | null>(null);
  const [base, setBase] = useState("10");
  const makes = useMakers();
  const given = choices ?? firstChoices(row, makes);
  const tried = useQuery({
    queryKey: ["try", row.thing.key, row.version, given, quantity, product, base],
    queryFn: () =>
      data(
        client.POST("/api/option_sets/{key}/try", {
          params: { path: { key: row.thing.key } },
          body: { changes: {}, choices: given, quantity, product, base: base.trim() || null },
        }),
      ),
    placeholderData: keepPreviousData,
    retry: false,
  });
  const found = tried.data;
  if (!found)
    return (
      <p className={tried.error ? "wrongly p-[14px]" : "hint p-[14px]"}>
        {tried.error instanceof Refused ? tried.error.problem.message : "Trying it…"}
      </p>
    );
  return (
    <ForAll>
      <section className="scroll min-h-0 flex-1 px-[14px] py-3" aria-label="Try it">
        <p className="flex min-w-0 items-center gap-2 text-ink-2">
          {found.product ? (
            <>
              on
              <Link className="link truncate" to={placeOf(PRODUCT, String(found.product))}>
                {found.title}
              </Link>
            </>
          ) : (
            <span className="flex items-center gap-2">
              on nothing yet, at a price of
              <TextBox
                className="!w-20"
                inputMode="decimal"
                value={base}
                onCommit={setBase}
                aria-label="Price to try it at"
              />
            </span>
          )}
          <Other onPick={setProduct} />
        </p>
        <section className="card mt-2">
          <Chooser
            options={found.options}
            choices={given}
            problems={found.quote.problems}
            onChoose={(key, value) => setChoices({ ...given, [key]: value })}
          />
          {found.options.length === 0 && <p className="hint">Nothing can be chosen yet.</p>}
        </section>
        <PriceLines quote={found.quote} onQuantity={setQuantity} />
        <Variants tried={found} />
        {found.clashes.map((clash) => (
          <p key={clash.words} className="wrongly mt-2">
            {clash.words}.{" "}
            <Link className="link" to={placeOf("option_set", clash.sets[1] ?? "")}>
              Mend it there
            </Link>
          </p>
        ))}
      </section>
    </ForAll>
  );
}

/** What is chosen beforehand, and of options that make variants the first value. */
function firstChoices(row: Things["option_set"], makes: (kind: string) => boolean): Choices {
  const found: Choices = {};
  for (const option of row.thing.options ?? []) {
    const first = makes(option.kind) ? option.values?.[0]?.code : undefined;
    const value = option.default || first;
    if (value) found[option.key] = value;
  }
  return found;
}

/** Another product to try it on. */
function Other({ onPick }: { onPick: (product: number) => void }) {
  const [words, setWords] = useState("");
  const [open, setOpen] = useState(false);
  const hits = useQuery({ ...ask.find(words.trim()), enabled: words.trim() !== "" }).data?.hits ?? [];
  return (
    <Popover
      label="Try it on another product"
      open={open}
      onOpen={setOpen}
      trigger={<Button look="quiet">Another…</Button>}
    >
      <input
        className="input"
        aria-label="Product to try it on"
        placeholder="Title or SKU"
        value={words}
        onChange={(event) => setWords(event.target.value)}
      />
      <ul className="mt-1">
        {hits
          .filter((hit) => hit.noun === PRODUCT)
          .slice(0, 8)
          .map((hit) => (
            <li key={hit.key}>
              <Button
                look="quiet"
                className="w-full !justify-start"
                onClick={() => {
                  onPick(Number(hit.key));
                  setOpen(false);
                }}
              >
                <span className="truncate">{hit.name}</span> <span className="key">{hit.note}</span>
              </Button>
            </li>
          ))}
      </ul>
    </Popover>
  );
}

/** What it costs, line by line, what it weighs and leaves, and its SKU. */
function PriceLines({ quote, onQuantity }: { quote: Schemas["QuoteOut"]; onQuantity: (quantity: number) => void }) {
  const each = quote.lines.filter((line) => line.charge === "each");
  const once = quote.lines.filter((line) => line.charge === "once");
  const whole = quote.problems.filter((problem) => problem.option === "");
  return (
    <section className="card mt-2" aria-label="What it costs">
      <p className="flex items-center gap-2 font-semibold">
        <input
          className="input !w-14 text-right"
          type="number"
          min={1}
          max={100000}
          aria-label="How many"
          value={quote.quantity}
          onChange={(event) => {
            const wanted = Math.floor(Number(event.target.value));
            if (wanted >= 1 && wanted <= 100000) onQuantity(wanted);
          }}
        />
        in the basket
        <span className="ml-auto">{quote.total ?? "no price"}</span>
      </p>
      <dl className="amounts mt-1">
        {quote.base && (
          <Row name={quote.based_on ? `Base price, ${quote.based_on}` : "Base price"} amount={quote.base} />
        )}
        {each.map((line) => (
          <Row
            key={line.option + line.chosen}
            name={`${line.name}: ${line.chosen}`}
            does={line.does}
            amount={line.amount}
          />
        ))}
        {quote.each && <Row strong name="Each" amount={quote.each} />}
        {once.map((line) => (
          <Row
            key={line.option + line.chosen}
            name={`${line.name}: ${line.chosen}, once`}
            does={line.does}
            amount={line.amount}
          />
        ))}
        {quote.unit_price && <Row name="Unit price" amount={quote.unit_price} />}
        {quote.weight && <Row name="Weight" amount={quote.weight} />}
        {quote.cost && <Row name="Cost" amount={quote.cost} />}
        {quote.margin && <Row name="Margin" amount={quote.margin} />}
      </dl>
      {quote.sku && (
        <p className="mt-1 text-ink-2">
          SKU <span className="key">{quote.sku}</span>
        </p>
      )}
      {whole.map((problem) => (
        <p key={problem.code} className="wrongly mt-1" role="status">
          {problem.message}
        </p>
      ))}
    </section>
  );
}

function Row(props: { name: string; does?: string; amount: string; strong?: boolean }) {
  return (
    <div className={props.strong ? "border-t border-line font-semibold" : ""}>
      <dt>
        {props.name}
        {props.does ? `, ${props.does} of base` : ""}
      </dt>
      <dd>{props.amount}</dd>
    </div>
  );
}

const WORDS: Record<string, string> = { in: "in stock", out: "sold out", left: "left out" };

/** All combinations as a grid of small cells: there, sold out, left out; and how many there are, in figures. */
function Variants({ tried }: { tried: Tried }) {
  if (tried.wrong)
    return (
      <p className="wrongly mt-2" role="alert">
        {tried.wrong.message}. {tried.wrong.help}
      </p>
    );
  if (!tried.formula) return null;
  const counts = ["in", "out", "left"].map(
    (state) => [state, tried.cells.filter((cell) => cell === state).length] as const,
  );
  const last = tried.options.filter((option) => option.makes_variants).at(0)?.values.length ?? 1;
  const wide = Math.min(Math.max(last, 8), 32);
  const stocks = counts
    .filter(([, count]) => count > 0)
    .map(([state, count]) => `${count} ${WORDS[state]}`)
    .join(" · ");
  return (
    <section className="card mt-2" aria-label="Variants">
      <p className="flex font-semibold">
        Variants <span className="ml-auto">{tried.formula}</span>
      </p>
      <div
        className="variant-cells mt-2"
        style={{ gridTemplateColumns: `repeat(${wide}, minmax(0, 1fr))` }}
        role="img"
        aria-label={`${counted(tried.count, "variant")}: ${stocks}`}
      >
        {tried.cells.map((cell, index) => (
          // biome-ignore lint/suspicious/noArrayIndexKey: a combination is known by its place
          <i key={index} className={cell} />
        ))}
      </div>
      <p className="hint mt-1">{stocks}</p>
    </section>
  );
}

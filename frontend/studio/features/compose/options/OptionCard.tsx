import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { Link } from "react-router";
import { placeOf, type Things } from "../../../api/nouns";
import { ask } from "../../../api/queries";
import { Button, counted } from "../../../ui/basics";
import { SwatchMark } from "../../../ui/SwatchMark";
import { TextBox } from "../../../ui/TextBox";
import { OptionDetails } from "./OptionDetails";
import { StockInput } from "./StockInput";
import { type Figure, type Option, typed, type useOptionSet, type Wrong } from "./useOptionSet";
import { Values } from "./Values";

type Props = {
  row: Things["option_set"];
  option: Option;
  writes: ReturnType<typeof useOptionSet>;
  open: boolean;
  wrong: Wrong | null;
  onOpen: () => void;
};
const SOME = 6;

/** One option: in a line what it is and does, opened all of it. */
export function OptionCard({ row, option, writes, open, wrong, onOpen }: Props) {
  const kinds = useQuery(ask.meta()).data?.option_kinds ?? [];
  const lists = useQuery(ask.things("value_list")).data ?? [];
  const [details, setDetails] = useState(false);
  const kind = kinds.find(({ code }) => code === option.kind);
  const list = lists.find(({ thing }) => thing.key === option.list)?.thing;
  const words = row.effect_words[option.key] ?? {};
  const labels =
    option.takes === "grows"
      ? (list?.values ?? []).filter((value) => !value.retired)
      : (option.values ?? []).map((value) => list?.values.find((other) => other.code === value.code) ?? value);
  const { putOption } = writes;
  return (
    <section className="min-w-0 flex-1" aria-label={option.name} data-mark={option.key}>
      <div className="flex min-h-9 flex-wrap items-center gap-x-2.5 gap-y-1 pr-2">
        <button type="button" className="min-w-0 truncate font-semibold" aria-expanded={open} onClick={onOpen}>
          {option.name}
        </button>
        <span className="key">{option.key}</span>
        <span className={`badge-quiet ${kind?.makes_variants ? "" : "badge-weld"}`}>
          {kind?.makes_variants ? "makes variants" : `shopper's request: ${kind?.name ?? option.kind}`}
        </span>
        <span className="min-w-0 flex-1 truncate text-ink-2">
          {kind?.chooses &&
            (list ? (
              <>
                {option.takes === "grows"
                  ? `all ${counted(labels.length, "value")} of `
                  : `${counted(labels.length, "value")} of `}
                <Link className="link" to={placeOf("value_list", list.key)}>
                  {list.name}
                </Link>
              </>
            ) : open ? (
              counted(labels.length, "value")
            ) : (
              <>
                {labels
                  .slice(0, SOME)
                  .map((value) => value.label)
                  .join(" · ")}
                {labels.length > SOME ? ` and ${labels.length - SOME} more` : ""}
              </>
            ))}
          {words[""]?.price && ` ${words[""].price}`}
        </span>
        {kind?.chooses && !open && (
          <span className="flex gap-0.5" aria-hidden="true">
            {labels.slice(0, SOME).map((value) => (
              <SwatchMark key={value.code} swatch={value.swatch} size={14} />
            ))}
          </span>
        )}
        <Button
          look="quiet"
          aria-expanded={details}
          aria-label={`Settings of ${option.name}`}
          onClick={() => setDetails(!details)}
        >
          Settings
        </Button>
        <Button
          right="edit"
          look="quiet"
          aria-label={`Take away ${option.name}`}
          onClick={() =>
            writes.put(
              (now) => ({
                options: (now.options ?? []).filter((other) => other.key !== option.key),
                left_out: (now.left_out ?? [])
                  .map(({ [option.key]: _, ...rest }) => rest)
                  .filter((rule) => Object.keys(rule).length > 0),
              }),
              `Option ${option.name} taken away`,
            )
          }
        >
          Take away
        </Button>
      </div>
      {details && kind && (
        <OptionDetails
          set={row.thing.key}
          option={option}
          kind={kind}
          lists={lists.map(({ thing }) => thing)}
          wrong={wrong}
          onPut={(change, title) => putOption(option.key, change, title)}
        />
      )}
      {open && kind?.chooses && <Values row={row} option={option} list={list} writes={writes} wrong={wrong} />}
      {open && kind && !kind.chooses && (
        <div className="flex flex-wrap items-center gap-3 border-t border-line py-2 pr-2">
          <AmountBoxes
            name={option.name}
            words={words[""] ?? {}}
            onPut={(figure, text) =>
              putOption(
                option.key,
                (now) => ({ effect: typed(now.effect, figure, text) }),
                `What ${option.name} does changed`,
              )
            }
          />
          <span className="flex items-center gap-2 text-ink-2">
            SKU part
            <TextBox
              className="!w-24 font-mono"
              aria-label={`SKU part of ${option.name}`}
              value={option.effect?.sku ?? ""}
              onCommit={(sku) =>
                putOption(
                  option.key,
                  (now) => ({ effect: { ...now.effect, sku: sku.trim() } }),
                  `SKU part of ${option.name} changed`,
                )
              }
            />
          </span>
          <span className="flex items-center gap-2 text-ink-2">
            Stock
            <span className="w-20">
              <StockInput
                name={option.name}
                value={row.stocks[option.key]?.[""]}
                onPut={(amount) => void writes.putStock(option.key, "", amount)}
              />
            </span>
          </span>
        </div>
      )}
    </section>
  );
}

/** What a request does to price, weight and cost, as typed. */
export function AmountBoxes(props: {
  name: string;
  words: Record<string, string>;
  onPut: (figure: Figure, text: string) => void;
}) {
  return (["price", "weight", "cost"] as const).map((figure) => (
    <span key={figure} className="flex items-center gap-2 text-ink-2">
      {figure[0]?.toUpperCase()}
      {figure.slice(1)}
      <TextBox
        className="!w-28"
        aria-label={`${figure} of ${props.name}`}
        placeholder="–"
        title="Such as 1.20, 8 %, = 25 or 3 once"
        value={props.words[figure] ?? ""}
        onCommit={(text) => props.onPut(figure, text)}
      />
    </span>
  ));
}

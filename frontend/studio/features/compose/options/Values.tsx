import { useQuery } from "@tanstack/react-query";
import { useRef, useState } from "react";
import type { Schemas } from "../../../api/client";
import type { Things } from "../../../api/nouns";
import { ask } from "../../../api/queries";
import { Button, Empty, Popover } from "../../../ui/basics";
import { Input, TextArea } from "../../../ui/inputs";
import { Only, useMay } from "../../../ui/rights";
import { moved, SortableList, SortableRow } from "../../../ui/Sortable";
import { SwatchMark } from "../../../ui/SwatchMark";
import { TextBox } from "../../../ui/TextBox";
import { useGrowing } from "../../../ui/useGrowing";
import { Remarks, remarksOf } from "../../../values/Remarks";
import { Look } from "../../../values/ValueDetails";
import { StockInput } from "./StockInput";
import {
  type Figure,
  newValue,
  type Option,
  type OptionValue,
  typed,
  type useOptionSet,
  type Wrong,
} from "./useOptionSet";

type ValueList = Schemas["ValueList"];

/** The values of an option with what each does, edited where they stand. */
export function Values(props: {
  row: Things["option_set"];
  option: Option;
  list: ValueList | undefined;
  writes: ReturnType<typeof useOptionSet>;
  wrong: Wrong | null;
}) {
  const { row, option, list, writes } = props;
  const [more, setMore] = useState(false);
  const remarks = useQuery(ask.remarks("option_set", row.thing.key)).data?.remarks ?? [];
  const values = option.values ?? [];
  const known = new Map((list?.values ?? []).map((value) => [value.code, value]));
  const own = option.takes === "own" || option.takes === undefined;
  const rows: OptionValue[] =
    option.takes === "grows"
      ? (list?.values ?? [])
          .filter((value) => !value.retired)
          .map((value) => values.find((other) => other.code === value.code) ?? newValue(value.code))
      : values;
  const [shown, end] = useGrowing(rows.length);
  const tracks = more
    ? "grid-cols-[26px_minmax(0,1.2fr)_minmax(0,0.6fr)_80px_80px_80px_60px_62px_38px]"
    : "grid-cols-[26px_minmax(0,1.2fr)_minmax(0,0.7fr)_84px_66px_minmax(0,1.5fr)_38px]";
  const change = (code: string, make: (now: OptionValue) => Partial<OptionValue>, title: string) =>
    writes.putOption(
      option.key,
      (now) => {
        const before = now.values ?? [];
        const there = before.some((value) => value.code === code);
        const all = there ? before : [...before, newValue(code)];
        return { values: all.map((value) => (value.code === code ? { ...value, ...make(value) } : value)) };
      },
      title,
    );
  const move = (from: number, to: number) =>
    writes.putOption(option.key, (now) => ({ values: moved(now.values ?? [], from, to) }), "Order of values changed");
  return (
    <div className="border-t border-line">
      <div
        className={`grid ${tracks} gap-2 py-1 pr-2 pl-[26px] text-[11.5px] font-semibold text-ink-2`}
        style={{ boxShadow: "inset 0 -1.5px 0 #1c2230" }}
        aria-hidden="true"
      >
        <span>Look</span>
        <span>Value</span>
        <span>Code</span>
        <span>Price</span>
        {more ? (
          <>
            <span>Weight</span>
            <span>Cost</span>
            <span>Stock</span>
          </>
        ) : null}
        <span>SKU part</span>
        {!more && <span>Check</span>}
        <span />
      </div>
      <SortableList ids={rows.slice(0, shown).map((value) => value.code)} onMove={move}>
        {rows.slice(0, shown).map((value, index) => {
          const listed = known.get(value.code);
          const name = listed?.label ?? (value.label || value.code);
          return (
            <SortableRow
              key={value.code}
              id={value.code}
              name={name}
              disabled={option.takes === "grows"}
              className="border-b border-line py-[2px]"
              onStep={(by) => move(index, index + by)}
            >
              <div
                className={`grid flex-1 ${tracks} items-center gap-2 pr-2 ${option.takes === "grows" ? "pl-[26px]" : ""}`}
              >
                {own ? (
                  <Look
                    name={name}
                    swatch={value.swatch}
                    onPut={(make) =>
                      change(value.code, (now) => ({ swatch: make(now.swatch) }), `Look of ${name} changed`)
                    }
                  />
                ) : (
                  <span className="grid h-7 place-items-center">
                    <SwatchMark swatch={listed?.swatch} />
                  </span>
                )}
                {own ? (
                  <TextBox
                    aria-label={`Label of ${name}`}
                    value={value.label ?? ""}
                    onCommit={(label) => change(value.code, () => ({ label: label.trim() }), `${label} renamed`)}
                  />
                ) : (
                  <span className={`truncate ${listed ? "" : "line-through"}`} title={name}>
                    {name}
                  </span>
                )}
                <span className="key truncate" title={value.code}>
                  {value.code}
                </span>
                <Figures
                  name={name}
                  figures={more ? ["price", "weight", "cost"] : ["price"]}
                  words={row.effect_words[option.key]?.[value.code] ?? {}}
                  onPut={(figure, text) =>
                    change(
                      value.code,
                      (now) => ({ effect: typed(now.effect, figure, text) }),
                      `What ${name} does changed`,
                    )
                  }
                />
                {more && (
                  <StockInput
                    name={name}
                    value={row.stocks[option.key]?.[value.code]}
                    onPut={(amount) => void writes.putStock(option.key, value.code, amount)}
                  />
                )}
                <TextBox
                  className="font-mono"
                  aria-label={`SKU part of ${name}`}
                  placeholder="–"
                  value={value.effect?.sku ?? ""}
                  onCommit={(sku) =>
                    change(
                      value.code,
                      (now) => ({ effect: { ...now.effect, sku: sku.trim() } }),
                      `SKU part of ${name} changed`,
                    )
                  }
                />
                {!more && <Remarks remarks={remarksOf(remarks, value.code, option.key)} />}
                {option.takes === "grows" ? (
                  <span />
                ) : (
                  <Button
                    right="edit"
                    look="quiet"
                    aria-label={`Take off ${name}`}
                    onClick={() =>
                      writes.putOption(
                        option.key,
                        (now) => ({
                          values: (now.values ?? []).filter((other) => other.code !== value.code),
                          default: now.default === value.code ? "" : now.default,
                        }),
                        `${name} taken off ${option.name}`,
                      )
                    }
                  >
                    Off
                  </Button>
                )}
              </div>
            </SortableRow>
          );
        })}
      </SortableList>
      <div ref={end} />
      {rows.length === 0 && (
        <Empty title="No values yet">
          {own ? "Type the first one below, or paste names and colours." : "Take some of the list, below."}
        </Empty>
      )}
      <div className="flex flex-wrap items-center gap-2 bg-cloth px-3 py-2">
        {own && <NewValues option={option} writes={writes} />}
        {option.takes === "some" && list && <TakeOfList option={option} list={list} writes={writes} />}
        <button type="button" className="link ml-auto" aria-pressed={more} onClick={() => setMore(!more)}>
          {more ? "Checks" : "Weight, cost and stock"}
        </button>
      </div>
    </div>
  );
}

function Figures(props: {
  name: string;
  figures: readonly Figure[];
  words: Record<string, string>;
  onPut: (figure: Figure, text: string) => void;
}) {
  return props.figures.map((figure) => (
    <TextBox
      key={figure}
      aria-label={`${figure} of ${props.name}`}
      placeholder="–"
      title="Such as 1.20, 8 %, = 25 or 3 once"
      value={props.words[figure] ?? ""}
      onCommit={(text) => props.onPut(figure, text)}
    />
  ));
}

/** More values: one typed, or a whole list of names and colours pasted. */
function NewValues({ option, writes }: { option: Option; writes: ReturnType<typeof useOptionSet> }) {
  const [text, setText] = useState("");
  const may = useMay("edit");
  const [skipped, setSkipped] = useState("");
  const box = useRef<HTMLTextAreaElement>(null);
  async function add(event: { preventDefault: () => void }) {
    event.preventDefault();
    if (!text.trim()) return;
    const done = await writes.paste(option.key, text);
    if (!done) return;
    setSkipped(done.skipped.map((line) => `${line.text}: ${line.reason}`).join("; "));
    setText(done.skipped.map((line) => line.text).join("\n"));
    box.current?.focus();
  }
  if (!may) return null;
  return (
    <form className="flex min-w-0 flex-1 flex-wrap items-start gap-2" onSubmit={add}>
      <TextArea
        ref={box}
        className="input !w-72"
        rows={1}
        aria-label={`New values of ${option.name}`}
        placeholder="New value, or paste names and #colours"
        value={text}
        onChange={(event) => setText(event.target.value)}
        onKeyDown={(event) => {
          if (event.key === "Enter" && !event.shiftKey) void add(event);
        }}
      />
      <Button right="edit" type="submit">
        Add value
      </Button>
      {skipped && (
        <span className="wrongly basis-full" role="alert">
          {skipped}
        </span>
      )}
    </form>
  );
}

/** Values of the list that are taken: some of them by ticking, or all there are now. */
function TakeOfList(props: { option: Option; list: ValueList; writes: ReturnType<typeof useOptionSet> }) {
  const { option, list, writes } = props;
  const [words, setWords] = useState("");
  const taken = new Set((option.values ?? []).map((value) => value.code));
  const free = list.values.filter((value) => !value.retired && !taken.has(value.code));
  const found = free.filter((value) => value.label.toLowerCase().includes(words.toLowerCase()));
  const take = (codes: readonly string[], title: string) =>
    writes.putOption(
      option.key,
      (now) => {
        const there = new Set((now.values ?? []).map((value) => value.code));
        const fresh = codes.filter((code) => !there.has(code)).map((code) => newValue(code));
        return { values: [...(now.values ?? []), ...fresh] };
      },
      title,
    );
  return (
    <Only>
      <Popover label="Take values of the list" trigger={<Button right="edit">Take values…</Button>}>
        <Input
          className="input"
          aria-label="Find a value"
          placeholder="Find a value"
          value={words}
          onChange={(event) => setWords(event.target.value)}
        />
        <ul className="scroll mt-2 max-h-60">
          {found.slice(0, 200).map((value) => (
            <li key={value.code}>
              <Button
                look="quiet"
                className="w-full !justify-start"
                onClick={() => take([value.code], `${value.label} taken`)}
              >
                <SwatchMark swatch={value.swatch} /> {value.label}
              </Button>
            </li>
          ))}
          {found.length === 0 && <li className="hint">None is left.</li>}
        </ul>
      </Popover>
      {free.length > 0 && (
        <Button
          onClick={() =>
            take(
              free.map((value) => value.code),
              `All of ${list.name} taken`,
            )
          }
        >
          Take all {free.length}
        </Button>
      )}
    </Only>
  );
}

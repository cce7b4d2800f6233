import { useState } from "react";
import { type Refused, type Schemas, uploadPicture } from "../api/client";
import { Button, Popover } from "../ui/basics";
import { ItemButtons } from "../ui/ItemButtons";
import { Input } from "../ui/inputs";
import { moved } from "../ui/Sortable";
import { NO_SWATCH, type Swatch, SwatchMark } from "../ui/SwatchMark";
import { TextBox } from "../ui/TextBox";
import { FromPictures } from "./FromPictures";
import { PictureFocus } from "./PictureFocus";

type Value = Schemas["ListValue"];
/** Members of a value to change, or how they come of it as it stands when their turn comes. */
export type ValueChanges = Partial<Value> | ((now: Value) => Partial<Value>);
const MOST_COLOURS = 4;

/** How a value looks and what is told beside it, behind its swatch. */
export function ValueDetails({ value, onChange }: { value: Value; onChange: (changes: ValueChanges) => void }) {
  return (
    <Look
      name={value.label}
      swatch={value.swatch}
      onPut={(make) => onChange((now) => ({ swatch: make(now.swatch) }))}
      title="Swatch, note and link"
    >
      <Row label="Note" note="Told beside the value">
        {(id) => (
          <TextBox
            id={id}
            maxLength={400}
            value={value.note ?? ""}
            onCommit={(note) => onChange({ note: note.trim() })}
          />
        )}
      </Row>
      <Row label="Link" note="Where its label leads">
        {(id) => (
          <TextBox
            id={id}
            inputMode="url"
            placeholder="https://"
            value={value.link ?? ""}
            onCommit={(link) => onChange({ link: link.trim() })}
          />
        )}
      </Row>
    </Look>
  );
}

/** How something looks, behind its swatch; what else there is to say of it stands below. */
export function Look(props: {
  name: string;
  swatch: Swatch | undefined;
  onPut: (make: (now: Swatch | undefined) => Swatch) => void;
  title?: string;
  children?: React.ReactNode;
}) {
  const swatch = props.swatch ?? NO_SWATCH;
  const put = (members: (now: Swatch) => Partial<Swatch>) =>
    props.onPut((now) => {
      const stands = now ?? NO_SWATCH;
      return { ...stands, ...members(stands) };
    });
  const looks = swatch.picture !== "" || (swatch.colours ?? []).length > 0 || swatch.short !== "";
  return (
    <Popover
      label={`Look of ${props.name}`}
      width={340}
      trigger={
        <button
          type="button"
          className="grid h-7 w-8 place-items-center rounded hover:bg-woad-tint"
          aria-label={`Look of ${props.name}`}
          title={props.title ?? "Swatch"}
        >
          {looks ? (
            <SwatchMark swatch={swatch} />
          ) : (
            <span className="h-[18px] w-[18px] rounded-[3px] border border-line border-dashed" aria-hidden="true" />
          )}
        </button>
      }
    >
      <h3 className="truncate">{props.name}</h3>
      <Colours swatch={swatch} onPut={(from) => put((now) => ({ colours: from(now.colours ?? []) }))} />
      <FromPictures
        name={props.name}
        onPick={(colour) => put((now) => ({ colours: picked(now.colours ?? [], colour) }))}
      />
      <PictureLine swatch={swatch} onPut={(picture) => put(() => ({ picture, focus: [] }))} />
      {swatch.picture && <PictureFocus swatch={swatch} onPut={(focus) => put(() => ({ focus }))} />}
      <Row label="Short label" note="In a box, where there is neither picture nor colour">
        {(id) => (
          <TextBox
            id={id}
            className="!w-24"
            maxLength={6}
            value={swatch.short ?? ""}
            onCommit={(short) => put(() => ({ short: short.trim() }))}
          />
        )}
      </Row>
      {props.children}
    </Popover>
  );
}

function Row(props: { label: string; note?: string; children: (id: string) => React.ReactNode }) {
  const id = `value-${props.label.replace(" ", "-").toLowerCase()}`;
  return (
    <div className="mt-2 grid grid-cols-[84px_minmax(0,1fr)] items-start gap-x-2">
      <label htmlFor={id} className="pt-1 text-ink-2">
        {props.label}
      </label>
      <div>
        {props.children(id)}
        {props.note && <p className="hint mt-0.5">{props.note}</p>}
      </div>
    </div>
  );
}

/** Colours side by side: each typed or chosen, moved and taken off. */
type PutColours = (from: (now: readonly string[]) => string[]) => void;

function Colours({ swatch, onPut }: { swatch: Swatch; onPut: PutColours }) {
  const colours = swatch.colours ?? [];
  return (
    <Row label="Colours">
      {(id) => (
        <div className="grid gap-1">
          {[...colours, ""].slice(0, MOST_COLOURS).map((colour, index) => (
            // biome-ignore lint/suspicious/noArrayIndexKey: a colour is known by its place
            <span key={index} className="flex items-center gap-1">
              <Input
                type="color"
                className="h-6 w-7 flex-none"
                aria-label={`Choose colour ${index + 1}`}
                value={colour || "#808080"}
                onChange={(event) => onPut((now) => withColour(now, index, event.target.value))}
              />
              <TextBox
                id={index === 0 ? id : undefined}
                aria-label={`Colour ${index + 1}`}
                className="!w-24 font-mono"
                placeholder="#rrggbb"
                value={colour}
                onCommit={(text) => onPut((now) => withColour(now, index, text.trim().toLowerCase()))}
              />
              {colour && (
                <ItemButtons
                  name={`colour ${index + 1}`}
                  index={index}
                  count={colours.length}
                  onMove={(to) => onPut((now) => moved(now, index, to))}
                  onTakeOff={() => onPut((now) => withColour(now, index, ""))}
                />
              )}
            </span>
          ))}
        </div>
      )}
    </Row>
  );
}

/** Colours with one more, as far as there is room; one that stands already stays. */
export function picked(colours: readonly string[], colour: string): string[] {
  return colours.includes(colour) ? [...colours] : [...colours, colour].slice(0, MOST_COLOURS);
}

/** Colours with one put, or taken off where it is empty. `#rgb` is written out. */
export function withColour(colours: readonly string[], index: number, colour: string): string[] {
  const whole = /^#[0-9a-f]{3}$/.test(colour) ? `#${[...colour.slice(1)].map((sign) => sign + sign).join("")}` : colour;
  const next = [...colours];
  next[index] = whole;
  return next.filter(Boolean);
}

function PictureLine({ swatch, onPut }: { swatch: Swatch; onPut: (picture: string) => void }) {
  const [wrong, setWrong] = useState("");
  async function take(file: File | undefined) {
    if (!file) return;
    try {
      onPut((await uploadPicture(file)).file);
      setWrong("");
    } catch (error) {
      setWrong((error as Refused).message);
    }
  }
  return (
    <Row label="Picture">
      {(id) => (
        <span className="flex flex-wrap items-center gap-2">
          {swatch.picture && <SwatchMark swatch={swatch} size={28} />}
          <Input
            id={id}
            type="file"
            accept="image/jpeg,image/png,image/webp"
            className="sr peer"
            onChange={(event) => void take(event.target.files?.[0])}
          />
          <label htmlFor={id} className="link cursor-pointer peer-focus-visible:outline">
            {swatch.picture ? "Choose another" : "Choose a picture"}
          </label>
          {swatch.picture && (
            <Button right="edit" look="quiet" onClick={() => onPut("")}>
              Take it off
            </Button>
          )}
          {wrong && (
            <span className="wrongly" role="alert">
              {wrong}
            </span>
          )}
        </span>
      )}
    </Row>
  );
}

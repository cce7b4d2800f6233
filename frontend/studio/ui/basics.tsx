import { Dialog as RadixDialog, Popover as RadixPopover, Tooltip } from "radix-ui";
import { type ButtonHTMLAttributes, type MouseEvent, type ReactNode, useId, useRef } from "react";
import { number } from "./locale";
import { type Right, useMay } from "./rights";

type ButtonProps = ButtonHTMLAttributes<HTMLButtonElement> & {
  look?: "primary" | "danger" | "quiet";
  /** What one must be allowed for it to be there; most that stand out change something. */
  right?: Right;
  /** Whether what it began is under way: it can't be pressed then, and keeps the focus. */
  busy?: boolean;
};

export function Button({ look, right, busy = false, className = "", ...rest }: ButtonProps) {
  if (!useMay(right ?? (look === "primary" || look === "danger" ? "edit" : "look"))) return null;
  const held = busy && {
    "aria-disabled": true,
    "aria-busy": true,
    onClick: (event: MouseEvent) => event.preventDefault(),
  };
  return <button type="button" className={`btn ${look ?? ""} ${className}`} {...rest} {...held} />;
}

/** A label beside its control, with a line for help or what is wrong under it. */
export function Line(props: {
  label: string;
  note?: ReactNode;
  wrong?: string | null;
  /** Whether its control wants the whole width, below the label. */
  wide?: boolean;
  children: (id: string) => ReactNode;
}) {
  const id = useId();
  return (
    <div className={`grid items-start gap-x-3 py-[5px] ${props.wide ? "" : "grid-cols-[104px_minmax(0,1fr)]"}`}>
      <label htmlFor={id} className="pt-[5px] text-ink-2">
        {props.label}
      </label>
      <div>
        {props.children(id)}
        {props.wrong ? (
          <p className="wrongly mt-1" role="alert">
            {props.wrong}
          </p>
        ) : (
          props.note && <p className="hint mt-1">{props.note}</p>
        )}
      </div>
    </div>
  );
}

/** A few choices side by side, one of them chosen. */
export function Segments<T extends string>(props: {
  label: string;
  value: T | null;
  choices: readonly (readonly [T, string])[];
  onChoose: (value: T) => void;
  disabled?: boolean;
}) {
  const may = useMay("edit");
  return (
    <fieldset className="seg" aria-label={props.label}>
      {props.choices.map(([value, text]) => (
        <button
          key={value}
          type="button"
          disabled={props.disabled || !may}
          aria-pressed={props.value === value}
          onClick={() => props.onChoose(value)}
        >
          {text}
        </button>
      ))}
    </fieldset>
  );
}

/** What belongs in an empty place, and the first step. */
export function Empty(props: { title: string; children?: ReactNode; action?: ReactNode }) {
  return (
    <div className="grid place-items-center p-10 text-center">
      <div className="woven mb-3 h-14 w-24 rounded-md border border-line" aria-hidden="true" />
      <p className="text-[14px] font-semibold">{props.title}</p>
      <div className="hint mt-1 max-w-[44ch] !text-ink-2">{props.children}</div>
      {props.action && <div className="mt-3">{props.action}</div>}
    </div>
  );
}

export function FillBar({ share, width = 74 }: { share: number; width?: number | string }) {
  return (
    <span className={`fillbar ${share < 40 ? "low" : ""}`} style={{ width }} aria-hidden="true">
      <span style={{ width: `${share}%` }} />
    </span>
  );
}

export type WeftState = "here" | "inherited" | "hidden" | "off" | "impossible";
export const WEFT_WORDS: Record<WeftState, string> = {
  here: "shown, set here",
  inherited: "shown, inherited",
  hidden: "hidden here",
  off: "not shown",
  impossible: "wanted, but impossible",
};

/** The five states of a field on a surface, told by pattern. */
export function Weft({ state, small }: { state: WeftState; small?: boolean }) {
  const look = state === "hidden" ? "hidden-here" : state;
  return <span aria-hidden="true" className={`weft ${look} ${small ? "small" : ""}`} />;
}

/** Gives the focus back to what had it when something was opened; where that is gone, to the sheet, never to nothing. */
function useOpener(open: boolean): (event: Event) => void {
  const opener = useRef<{ open: boolean; had: Element | null }>({ open: false, had: null });
  if (open !== opener.current.open) opener.current = { open, had: open ? document.activeElement : opener.current.had };
  return (event) => {
    event.preventDefault();
    const { had } = opener.current;
    const now = document.activeElement;
    // Somebody has put it where it is wanted already.
    if (now !== null && now !== document.body && !now.closest("[data-floating]")) return;
    const back = had instanceof HTMLElement && had.isConnected && had !== document.body ? had : null;
    (back ?? document.getElementById("sheet"))?.focus();
  };
}

export function Dialog(props: {
  open: boolean;
  onClose: () => void;
  title: string;
  note?: string;
  children: ReactNode;
  fixed?: boolean;
}) {
  const giveBack = useOpener(props.open);
  return (
    <RadixDialog.Root open={props.open} onOpenChange={(open) => !open && !props.fixed && props.onClose()}>
      <RadixDialog.Portal>
        <RadixDialog.Overlay className="veil" />
        <RadixDialog.Content
          className="float dialog"
          data-floating
          aria-describedby={undefined}
          onCloseAutoFocus={giveBack}
        >
          <RadixDialog.Title className="text-[16px] font-bold">{props.title}</RadixDialog.Title>
          {props.note && <p className="hint mt-1">{props.note}</p>}
          <div className="mt-3">{props.children}</div>
        </RadixDialog.Content>
      </RadixDialog.Portal>
    </RadixDialog.Root>
  );
}

/** Floating things never stand over the edge of the window: what does not fit is scrolled to. */
const ROOM = "var(--radix-popover-content-available-height)";

export function Popover(props: {
  trigger: ReactNode;
  children: ReactNode;
  open?: boolean;
  onOpen?: (open: boolean) => void;
  width?: number;
  label: string;
  /** Whether focus stays where it went, instead of coming back to what opened it. */
  keepFocus?: () => boolean;
}) {
  return (
    <RadixPopover.Root open={props.open} onOpenChange={props.onOpen}>
      <RadixPopover.Trigger asChild>{props.trigger}</RadixPopover.Trigger>
      <RadixPopover.Portal>
        <RadixPopover.Content
          className="float scroll p-3"
          style={{ width: props.width ?? 320, maxHeight: ROOM }}
          sideOffset={5}
          collisionPadding={10}
          data-floating
          aria-label={props.label}
          onCloseAutoFocus={(event) => props.keepFocus?.() && event.preventDefault()}
        >
          {props.children}
        </RadixPopover.Content>
      </RadixPopover.Portal>
    </RadixPopover.Root>
  );
}

/** What floats beside something that is there already; closing gives the focus back to that, unless it has gone elsewhere. */
export function Floating(props: {
  anchor: HTMLElement;
  label: string;
  width?: number;
  onClose: () => void;
  children: ReactNode;
}) {
  return (
    <RadixPopover.Root open onOpenChange={(open) => !open && props.onClose()}>
      <RadixPopover.Anchor virtualRef={{ current: props.anchor }} />
      <RadixPopover.Portal>
        <RadixPopover.Content
          className="float scroll p-3"
          style={{ width: props.width ?? 320, maxHeight: ROOM }}
          sideOffset={5}
          collisionPadding={10}
          data-floating
          aria-label={props.label}
          onCloseAutoFocus={(event) => {
            event.preventDefault();
            if (document.activeElement === document.body) props.anchor.focus();
          }}
        >
          {props.children}
        </RadixPopover.Content>
      </RadixPopover.Portal>
    </RadixPopover.Root>
  );
}

/** A word or two for a sign that has no label of its own. */
export function Tip({ text, children }: { text: string; children: ReactNode }) {
  return (
    <Tooltip.Root>
      <Tooltip.Trigger asChild>{children}</Tooltip.Trigger>
      <Tooltip.Portal>
        <Tooltip.Content className="z-50 max-w-[300px] rounded bg-ink px-2 py-1 text-[12px] text-white" sideOffset={4}>
          {text}
        </Tooltip.Content>
      </Tooltip.Portal>
    </Tooltip.Root>
  );
}

export const TipProvider = Tooltip.Provider;

/** `1 page`, `46 pages`. */
export function counted(count: number, single: string, many = `${single}s`): string {
  return `${number(count)} ${count === 1 ? single : many}`;
}

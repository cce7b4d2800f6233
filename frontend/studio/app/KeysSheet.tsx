import { Dialog } from "../ui/basics";

const KEYS: [string, [string, string][]][] = [
  [
    "Anywhere",
    [
      ["1 – 5", "go to a stage"],
      ["Ctrl K", "find or do"],
      ["Ctrl Z", "undo your last change"],
      ["Ctrl Shift Z", "do it again"],
      ["?", "this sheet"],
      ["Esc", "leave what is open"],
    ],
  ],
  [
    "Lists and sheets",
    [
      ["↑ ↓", "move"],
      ["Home End", "first, last"],
      ["Enter", "open"],
      ["Space", "toggle"],
      ["/", "filter the list"],
      ["F", "find a value in a list, a block on a layout"],
      ["Shift click", "tick all rows up to the one pressed; Ctrl click one more"],
      ["Shift ↑ ↓", "choose several blocks of a layout"],
      ["← →", "fold a block that holds others, and open it"],
      ["N", "make a new one"],
      ["Alt ↑ ↓", "move a row, on its grip"],
      ["A", "add a block to a layout; Shift Enter stays for the next"],
      ["Delete", "take a block out of a layout"],
    ],
  ],
  [
    "Grids",
    [
      ["↑ ↓ ← →", "from cell to cell; Page ↑ ↓, Home, End"],
      ["Enter F2", "edit the cell, or just type over it"],
      ["Shift ↑ ↓ ← →", "choose a block of cells"],
      ["Ctrl C V", "copy, paste, as in a spreadsheet"],
      ["Ctrl D", "fill down"],
      ["Delete", "empty the cells"],
      ["Alt Shift ← →", "narrower, wider column"],
      ["Alt ↑ ↓", "move the row, where it can be"],
    ],
  ],
  [
    "Panes",
    [
      ["P", "the proof"],
      ["W", "why does it show or not"],
      ["H", "history of what is open"],
    ],
  ],
];

/** All keys of the studio. */
export function KeysSheet({ open, onClose }: { open: boolean; onClose: () => void }) {
  return (
    <Dialog open={open} onClose={onClose} title="Keys" note="Keys do nothing while you type in a box.">
      <div className="grid grid-cols-2 gap-x-6 gap-y-3">
        {KEYS.map(([title, rows]) => (
          <section key={title}>
            <h3 className="mb-1">{title}</h3>
            <dl className="grid grid-cols-[84px_1fr] gap-y-1">
              {rows.map(([key, does]) => (
                <div key={key} className="contents">
                  <dt>
                    <kbd>{key}</kbd>
                  </dt>
                  <dd className="text-ink-2">{does}</dd>
                </div>
              ))}
            </dl>
          </section>
        ))}
      </div>
    </Dialog>
  );
}

import { compared } from "./comparing";
import { letters } from "./letters";
import { enliven } from "./lively";
import { saving } from "./saving";
import { sending } from "./sending";

/** What scripts add to any part of a page, but for what is chosen in it. */
export function wake(root: ParentNode): void {
  enliven(root);
  saving(root);
  compared(root);
  letters(root);
  sending(root);
}

import { choosing } from "./choosing";
import { compared } from "./comparing";
import { enliven } from "./lively";
import { saving } from "./saving";

/** All that scripts add to a page, or to a part of it that is put in place anew: a page, a quick look, a proof made fresh. */
export function awaken(root: ParentNode): void {
  enliven(root);
  saving(root);
  compared(root);
  choosing(root);
}

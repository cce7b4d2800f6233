import { choosing } from "./choosing";
import { wake } from "./parts";

/** All that scripts add to a page, or to a part of it that is put in place anew: a page, a quick look, a proof made fresh. */
export function awaken(root: ParentNode): void {
  wake(root);
  choosing(root);
}

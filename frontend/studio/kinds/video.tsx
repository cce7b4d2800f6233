import { linkKind } from "./web_link";

/** Words and an address as of any link; pasted embed code goes where the address does, and is read by the server. */
export const video = linkKind("video");

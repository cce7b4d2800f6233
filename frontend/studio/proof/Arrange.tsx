import { useNavigate } from "react-router";
import { client, data } from "../api/client";
import { placeOf } from "../api/nouns";
import { useSaving } from "../state/saving";
import { useMay } from "../state/useMay";
import { Button } from "../ui/basics";

/** Opens the arrangement that a scope has for itself on a surface; where it has none yet, one that follows what is in force. */
export function Arrange(props: { scope: string; surface: string; words: string; look?: "quiet"; product?: number }) {
  const { save } = useSaving();
  const go = useNavigate();
  const can = useMay("edit");
  if (!can) return null;
  async function open() {
    const body = { scope: props.scope, surface: props.surface };
    const made = await save(() => data(client.POST("/api/arrangements", { body })), { noun: "layout" });
    if (made) go(`${placeOf("layout", made.key)}${props.product ? `?product=${props.product}` : ""}`);
  }
  return (
    <Button
      look={props.look}
      title="Move, hide and add blocks here alone; all else follows as before"
      onClick={() => void open()}
    >
      {props.words}
    </Button>
  );
}

import { useNavigate } from "react-router";
import { useSaving } from "../state/saving";
import { Button } from "../ui/basics";

/** Takes a thing away and leads to the others; one that is used is refused with its users, and undo brings it back. */
export function RemoveThing(props: {
  what: string;
  noun?: string;
  name: string;
  remove: () => Promise<unknown>;
  to: string;
}) {
  const { save } = useSaving();
  const go = useNavigate();
  return (
    <Button
      look="danger"
      className="mt-4"
      onClick={() =>
        save(props.remove, { noun: props.noun, done: `${props.name} removed` }).then((done) => done && go(props.to))
      }
    >
      Remove this {props.what}
    </Button>
  );
}

import { asText, type EditorProps, type KindUi } from "./base";
import { OwnWords } from "./OwnWords";

function SharedWords({ id, at, wrong, onFill }: EditorProps) {
  const { value, standing } = at;
  const held = value.value ?? value.typed;
  return (
    <OwnWords
      id={id}
      label={at.field.name}
      standing={{
        html: asText(standing?.value),
        text: standing?.shown ?? "",
        source: standing?.source ?? "the shared words",
      }}
      own={held === null || held === undefined || held === "" ? null : asText(held)}
      differs={standing?.differs ?? []}
      wrong={wrong}
      onPut={onFill}
    />
  );
}

export const sharedWords: KindUi = { code: "shared_words", Editor: SharedWords, tall: () => true };

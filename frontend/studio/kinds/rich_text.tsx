import { asText, type KindUi, type WrittenProps } from "./base";
import { RichBox } from "./RichBox";
import { RichText } from "./RichText";

function RichWritten({ id, label, value, onPut }: WrittenProps) {
  return <RichBox id={id} label={label} value={value} onFill={onPut} />;
}

/** What is read of formatted text. */
function read(html: string): string {
  const page = new DOMParser().parseFromString(html, "text/html");
  return [...page.body.children].map((part) => part.textContent).join(" ");
}

export const richText: KindUi = {
  code: "rich_text",
  Editor: RichText,
  Written: RichWritten,
  read,
  tall: () => true,
  typed: (value) => asText(value),
};

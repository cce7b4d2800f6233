import { collection } from "./collection";
import { colour } from "./colour";
import { contents } from "./contents";
import { date } from "./date";
import { decimal } from "./decimal";
import { file } from "./file";
import { gtin } from "./gtin";
import { longText } from "./long_text";
import { manyOf } from "./many_of";
import { measure } from "./measure";
import { money } from "./money";
import { oneOf } from "./one_of";
import { picture } from "./picture";
import { product } from "./product";
import { rating } from "./rating";
import { record } from "./record";
import { register } from "./registry";
import { richText } from "./rich_text";
import { rows } from "./rows";
import { sharedWords } from "./shared_words";
import { text } from "./text";
import { video } from "./video";
import { webLink } from "./web_link";
import { whole } from "./whole";
import { yesNo } from "./yes_no";

/** Every kind with an editor of its own: one more is one file and one line here. */
register([
  text,
  longText,
  richText,
  sharedWords,
  whole,
  decimal,
  measure,
  yesNo,
  oneOf,
  manyOf,
  picture,
  file,
  date,
  colour,
  webLink,
  video,
  rating,
  record,
  product,
  collection,
  gtin,
  money,
  contents,
  rows,
]);

export { kindUi } from "./registry";

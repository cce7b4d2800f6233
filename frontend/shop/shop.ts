import { awaken } from "./awake";
import { basketCount } from "./choosing";
import { comparing } from "./comparing";
import { quickLooks } from "./quick";
import "./shop.css";
import "./blocks.css";
import "./columns.css";
import "./beside.css";
import "./pins.css";
import "./choosing.css";
import "./basket.css";

comparing(document);
awaken(document);
// What was refused is gone on with where it is.
document.querySelector<HTMLElement>("#wrong :is(input, select, textarea):not([type=hidden])")?.focus();
basketCount();
quickLooks();

import { basketCount, choosing } from "./choosing";
import { comparing } from "./comparing";
import { enliven } from "./lively";
import { quickLooks } from "./quick";
import { saving } from "./saving";
import "./shop.css";
import "./blocks.css";
import "./columns.css";
import "./beside.css";
import "./pins.css";
import "./choosing.css";
import "./basket.css";

enliven(document);
saving(document);
comparing(document);
choosing(document);
basketCount();
quickLooks();

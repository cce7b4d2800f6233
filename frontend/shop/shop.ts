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
basketCount();
quickLooks();

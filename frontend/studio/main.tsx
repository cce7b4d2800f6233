import { createRoot } from "react-dom/client";
import { App } from "./app/App";
import "./ui/styles.css";

createRoot(document.getElementById("root") as HTMLElement).render(<App />);

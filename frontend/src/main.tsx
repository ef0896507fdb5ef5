import "@fontsource/atkinson-hyperlegible/latin-400.css";
import "@fontsource/atkinson-hyperlegible/latin-700.css";
import "@fontsource/atkinson-hyperlegible-mono/latin-400.css";
import "./ui/base.css";
import { createRoot } from "react-dom/client";
import { noticeTouches } from "./api/awake";
import { App } from "./shell/App";
import { nonceStyles } from "./ui/nonce";

nonceStyles(document);
noticeTouches(window);
const root = document.getElementById("root");
if (root) createRoot(root).render(<App />);

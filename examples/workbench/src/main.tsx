import "@mantine/core/styles.css";
import "@zest-tier/kit/kit.css";
import "./bench.css";
import { Frame } from "@zest-tier/kit";
import { wrap } from "comlink";
import { createRoot } from "react-dom/client";
import { App } from "./app.js";
import { BenchProvider } from "./bench.js";
import type { Desk } from "./desk/desk.js";
import type { Sheets } from "./sheets/sheets.js";

const desk = wrap<Desk>(new Worker(new URL("./desk/desk.worker.ts", import.meta.url), { type: "module" }));
const sheets = wrap<Sheets>(new Worker(new URL("./sheets/sheets.worker.ts", import.meta.url), { type: "module" }));

createRoot(document.getElementById("root")!).render(
  <Frame>
    <BenchProvider desk={desk} sheets={sheets}>
      <App />
    </BenchProvider>
  </Frame>,
);

import "@mantine/core/styles.css";
import "@zest-tier/kit/kit.css";
import "./bench.css";
import { Frame } from "@zest-tier/kit";
import { wrap } from "comlink";
import { createRoot } from "react-dom/client";
import { App } from "./app.js";
import { ProjectProvider } from "./open-project.js";
import type { Workspace } from "./workspace/workspace.js";
import type { Sheets } from "./sheets/sheets.js";

const desk = wrap<Workspace>(new Worker(new URL("./desk/desk.worker.ts", import.meta.url), { type: "module" }));
const sheets = wrap<Sheets>(new Worker(new URL("./sheets/sheets.worker.ts", import.meta.url), { type: "module" }));

createRoot(document.getElementById("root")!).render(
  <Frame>
    <ProjectProvider desk={desk} sheets={sheets}>
      <App />
    </ProjectProvider>
  </Frame>,
);

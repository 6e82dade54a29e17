import "@mantine/core/styles.css";
import "@zest-tier/kit/kit.css";
import "./workbench.css";
import { Frame } from "@zest-tier/kit";
import { wrap } from "comlink";
import { createRoot } from "react-dom/client";
import { App } from "./app.js";
import { ProjectProvider } from "./open-project.js";
import type { Workspace } from "./workspace/workspace.js";
import type { Sheets } from "./sheets/sheets.js";

const workspace = wrap<Workspace>(
  new Worker(new URL("./workspace/workspace.worker.ts", import.meta.url), { type: "module" }),
);
const sheets = wrap<Sheets>(new Worker(new URL("./sheets/sheets.worker.ts", import.meta.url), { type: "module" }));

createRoot(document.getElementById("root")!).render(
  <Frame>
    <ProjectProvider workspace={workspace} sheets={sheets}>
      <App />
    </ProjectProvider>
  </Frame>,
);

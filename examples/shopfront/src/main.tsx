import "@mantine/core/styles.css";
import "@zest-tier/kit/kit.css";
import "./shop.css";
import { Frame } from "@zest-tier/kit";
import { createRoot } from "react-dom/client";
import { App } from "./app.js";

createRoot(document.getElementById("root")!).render(
  <Frame>
    <App />
  </Frame>,
);

import { expose } from "comlink";
import { Workspace } from "./workspace.js";

expose(new Workspace());

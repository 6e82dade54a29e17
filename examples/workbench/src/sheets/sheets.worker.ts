import { expose } from "comlink";
import { Sheets } from "./sheets.js";

expose(new Sheets());

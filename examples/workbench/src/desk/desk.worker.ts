import { expose } from "comlink";
import { Desk } from "./desk.js";

expose(new Desk());

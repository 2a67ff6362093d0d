import * as Comlink from "comlink";
import { readLineLog, type LineLog } from "@/core/links/bus/lineLog";

/** Logs of a serial line, off the page's thread. */
const api = {
  read(text: string): LineLog {
    return readLineLog(text);
  },
};

export type LineLogWorker = typeof api;

Comlink.expose(api);

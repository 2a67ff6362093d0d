import * as Comlink from "comlink";
import { judgeCanLog, type CanLog, type ExpectedFrame } from "@/core/links/bus/candump";

/** What a CAN log is asked about; times in s. */
export interface CanLogRequest {
  readonly text: string;
  readonly bitrate: number;
  readonly expected: readonly ExpectedFrame[];
}

/** Logs of a CAN, off the page's thread. */
const api = {
  judge({ text, bitrate, expected }: CanLogRequest): CanLog {
    return judgeCanLog(text, bitrate, expected);
  },
};

export type CanLogWorker = typeof api;

Comlink.expose(api);

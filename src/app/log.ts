import pino from "pino";

/** What went wrong on the server, for whoever runs it: lines of JSON on standard error. */
export const log = pino({ name: "gormit" }, pino.destination(2));

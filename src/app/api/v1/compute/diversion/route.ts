import { computeRoute } from "@/app/api/computeRoute";

/** A year of values at a minute is about four megabytes of digits. */
const MAX_SERIES_BYTES = 8_000_000;

export const POST = computeRoute("diversion", MAX_SERIES_BYTES);

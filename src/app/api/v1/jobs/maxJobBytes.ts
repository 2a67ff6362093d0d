/** The largest job file or save, bytes: many times that of forty devices with their kits. */
export const MAX_JOB_BYTES = 3_000_000;

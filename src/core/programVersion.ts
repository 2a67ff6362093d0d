/** Which Gormit this is: it stands in reports and bundles. The package says the same, which a test holds it to. */
export const PROGRAM_VERSION = "0.1.0";

/** What `npm test` tells the tests about what it started; missing when they are run without it. */
export function fromTestRun(name: "GORMIT_TEST_APP" | "GORMIT_TEST_CHROMIUM" | "DATABASE_URL"): string {
  const value = process.env[name];
  if (!value)
    throw new Error(`${name} is not set: run these tests with "npm test", which starts the database and the app`);
  return value;
}

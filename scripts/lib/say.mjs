/** A failure that the person at the keyboard can mend: printed without a stack. */
export class Stop extends Error {}

/** @param {string} line */
export function say(line) {
  console.log(line);
}

/**
 * Run a script's main function; a `Stop` prints its message alone and ends with code 1.
 * @param {() => Promise<void>} main
 */
export async function run(main) {
  try {
    await main();
  } catch (error) {
    console.error(error instanceof Stop ? `\n${error.message}` : error);
    process.exitCode = 1;
  }
}

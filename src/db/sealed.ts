import { createCipheriv, createDecipheriv, hash, randomBytes } from "node:crypto";
import { mkdir, open, readFile } from "node:fs/promises";

const CIPHER = "aes-256-gcm";
const NONCE_BYTES = 12;
const TAG_BYTES = 16;
const KEY_BYTES = 32;
const KEY_FOLDER = ".gormit";
const KEY_FILE = `${KEY_FOLDER}/passphrase.key`;

/** Something sealed that this key does not open: it was sealed with another, or changed. */
export class NotOpened extends Error {
  constructor() {
    super("It was sealed with another key and cannot be read here.");
    this.name = "NotOpened";
  }
}

/**
 * A text so that only this app can read it: AES-256-GCM (NIST SP 800-38D) with a key outside the database, bound to
 * what it is for.
 *
 * @param purpose What it is kept for: sealed text that is moved elsewhere is not opened there.
 */
export async function seal(text: string, purpose: string): Promise<Buffer> {
  const nonce = randomBytes(NONCE_BYTES);
  const cipher = createCipheriv(CIPHER, await sealingKey(), nonce);
  cipher.setAAD(Buffer.from(purpose));
  const sealed = Buffer.concat([cipher.update(text, "utf8"), cipher.final()]);
  return Buffer.concat([nonce, cipher.getAuthTag(), sealed]);
}

/** What was sealed for this purpose. Throws `NotOpened` where the key or the purpose is another. */
export async function unseal(sealed: Buffer, purpose: string): Promise<string> {
  const decipher = createDecipheriv(CIPHER, await sealingKey(), sealed.subarray(0, NONCE_BYTES));
  decipher.setAAD(Buffer.from(purpose));
  decipher.setAuthTag(sealed.subarray(NONCE_BYTES, NONCE_BYTES + TAG_BYTES));
  try {
    return Buffer.concat([decipher.update(sealed.subarray(NONCE_BYTES + TAG_BYTES)), decipher.final()]).toString(
      "utf8",
    );
  } catch {
    throw new NotOpened();
  }
}

/** From the environment, where several copies of the app share a database; else a file beside the app, made once. */
async function sealingKey(): Promise<Buffer> {
  const given = process.env.GORMIT_SECRET_KEY;
  if (given) return hash("sha256", given, "buffer");
  await mkdir(KEY_FOLDER, { recursive: true });
  try {
    const file = await open(KEY_FILE, "wx", 0o600);
    await file.writeFile(randomBytes(KEY_BYTES).toString("base64"));
    await file.close();
  } catch (error) {
    if ((error as NodeJS.ErrnoException).code !== "EEXIST") throw error;
  }
  return hash("sha256", await readFile(KEY_FILE, "utf8"), "buffer");
}

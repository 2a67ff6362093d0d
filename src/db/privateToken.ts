import { createHash, randomBytes } from "node:crypto";

const TOKEN_BYTES = 24;
const TOKEN = /^[A-Za-z0-9_-]{32}$/;

/** A token that nobody guesses; only its hash is kept. */
export function newToken(): string {
  return randomBytes(TOKEN_BYTES).toString("base64url");
}

/** What is kept of a token; undefined of a text that is none. */
export function maybeTokenHash(token: string): Buffer | undefined {
  return TOKEN.test(token) ? createHash("sha256").update(token).digest() : undefined;
}

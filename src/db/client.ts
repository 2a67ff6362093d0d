import pg from "pg";
import { freeSpaceProblem } from "@/db/freeSpace";
import { keyedQueue } from "@/db/keyedQueue";

const CONNECT_TIMEOUT_MS = 5_000;
const MAX_CONNECTIONS = 10;
/** No query of this app takes a second; what takes this long waits for something that does not come. */
const STATEMENT_TIMEOUT_MS = 8_000;
const LOCK_TIMEOUT_MS = 3_000;
const IDLE_IN_TRANSACTION_MS = 10_000;
const IDLE_CONNECTION_MS = 30_000;
/** A transaction that met another one is done again this often, a little later each time. */
const MOST_TRIES = 4;
const TRY_AGAIN_MS = 15;
const MOST_WAITING_FOR_ONE_JOB = 30;

/** Error codes of a server that is not there, going down, or refusing: worth trying again, unlike a wrong query. */
const UNAVAILABLE = new Set([
  "ECONNREFUSED",
  "ECONNRESET",
  "ENOTFOUND",
  "ETIMEDOUT",
  "EPIPE",
  "57P01",
  "57P02",
  "57P03",
  "08006",
  "08001",
  "08003",
  "53300",
]);
/** Two transactions in each other's way: neither did anything. */
const COLLIDED = new Set(["40001", "40P01"]);
/** Text or a number that no column can hold. */
const BAD_VALUE = new Set(["22021", "22P05", "22P02", "22003", "22007", "22008", "22001", "54000"]);
const TOO_SLOW = new Set(["55P03", "57014", "25P03"]);
const DISK_FULL = new Set(["53100", "53200", "58030"]);

/** The database cannot be reached now; nothing was written. */
export class DatabaseUnavailable extends Error {
  constructor(cause: unknown) {
    super("The database cannot be reached. Nothing was changed; start it and try again.", { cause });
    this.name = "DatabaseUnavailable";
  }
}

/** The database has too much to do for this now; nothing was written, and the same again will do. */
export class DatabaseBusy extends Error {
  constructor(cause?: unknown) {
    super("Too much is going on with this at the moment. Nothing was changed; try again.", { cause });
    this.name = "DatabaseBusy";
  }
}

/** A value that no table can hold; nothing was written. */
export class UnstorableValue extends Error {
  constructor(cause: unknown) {
    super(
      "Something in it cannot be kept: a text with characters that no text can hold, or a number or date out " +
        "of range. Nothing was changed.",
      { cause },
    );
    this.name = "UnstorableValue";
  }
}

/** There is no room left; reading goes on. */
export class StorageFull extends Error {
  constructor(cause?: unknown) {
    super(
      "There is almost no room left on the disk, so nothing more is taken. What was saved can be read; make " +
        "room, then try again.",
      { cause },
    );
    this.name = "StorageFull";
  }
}

export type Queryable = Pick<pg.Pool, "query">;

// Next.js loads modules anew on every change while developing; the pools must outlive that.
const kept = globalThis as typeof globalThis & { gormitPool?: pg.Pool; gormitHealth?: pg.Pool };

const oneAtATime = keyedQueue(MOST_WAITING_FOR_ONE_JOB);

/**
 * The one pool of this process. Throws when DATABASE_URL is missing, since pg would then silently try a default server.
 */
function pool(): pg.Pool {
  kept.gormitPool ??= openPool(MAX_CONNECTIONS);
  return kept.gormitPool;
}

/**
 * Run writes in one transaction: all of them or none. Done again when it met another one. `key` names what it locks (a
 * job): whoever wants the same waits here, and not with a connection that others need.
 */
export async function transaction<T>(key: string, work: (client: Queryable) => Promise<T>): Promise<T> {
  const full = await freeSpaceProblem();
  if (full) throw new StorageFull(full);
  const turn = await oneAtATime(key, () => translated(() => tried(work)));
  if (turn.kind === "crowded") throw new DatabaseBusy();
  return turn.value;
}

/** Run one query outside a transaction. */
export async function query<R extends pg.QueryResultRow>(text: string, values: readonly unknown[] = []): Promise<R[]> {
  return translated(async () => (await pool().query<R>(text, [...values])).rows);
}

/** Close every connection: for scripts and tests, which end. */
export async function closeDatabase(): Promise<void> {
  await Promise.all([kept.gormitPool?.end(), kept.gormitHealth?.end()]);
  kept.gormitPool = undefined;
  kept.gormitHealth = undefined;
}

/** Whether the database answers, asked over a connection of its own: a busy pool is no reason to be called dead. */
export async function databaseAnswers(): Promise<void> {
  kept.gormitHealth ??= openPool(1);
  const health = kept.gormitHealth;
  await translated(async () => {
    await health.query("select 1");
  });
}

function openPool(max: number): pg.Pool {
  const connectionString = process.env.DATABASE_URL;
  if (!connectionString)
    throw new Error("DATABASE_URL is not set; start Gormit with `npm run demo`, or set it to a PostgreSQL");
  const opened = new pg.Pool({
    connectionString,
    max,
    connectionTimeoutMillis: CONNECT_TIMEOUT_MS,
    idleTimeoutMillis: IDLE_CONNECTION_MS,
    keepAlive: true,
    statement_timeout: STATEMENT_TIMEOUT_MS,
    lock_timeout: LOCK_TIMEOUT_MS,
    idle_in_transaction_session_timeout: IDLE_IN_TRANSACTION_MS,
    // A server that hangs does not cancel by its own clock.
    query_timeout: 2 * STATEMENT_TIMEOUT_MS,
  });
  // A connection that the server closes fails its query, or is replaced at the next one; unhandled, its error
  // event would end the process.
  opened.on("error", () => undefined);
  opened.on("connect", (client) => client.on("error", () => undefined));
  return opened;
}

async function tried<T>(work: (client: Queryable) => Promise<T>): Promise<T> {
  for (let attempt = 1; ; attempt++) {
    try {
      return await once(work);
    } catch (error) {
      if (!COLLIDED.has(codeOf(error)) || attempt === MOST_TRIES) throw error;
      await new Promise((resolve) => setTimeout(resolve, attempt * TRY_AGAIN_MS));
    }
  }
}

async function once<T>(work: (client: Queryable) => Promise<T>): Promise<T> {
  const client = await pool().connect();
  let isSound = true;
  try {
    await client.query("begin");
    const result = await work(client);
    await client.query("commit");
    return result;
  } catch (error) {
    // After a lost connection there is nothing to roll back; the first error is the one that matters.
    await client.query("rollback").catch(() => {
      isSound = false;
    });
    throw error;
  } finally {
    client.release(!isSound);
  }
}

function codeOf(error: unknown): string {
  return error instanceof Error && "code" in error ? String(error.code) : "";
}

async function translated<T>(work: () => Promise<T>): Promise<T> {
  try {
    return await work();
  } catch (error) {
    const code = codeOf(error);
    const lost =
      error instanceof Error &&
      /Connection terminated|not queryable|timeout exceeded when trying to connect/.test(error.message);
    const slow = error instanceof Error && /Query read timeout/.test(error.message);
    if (UNAVAILABLE.has(code) || lost) throw new DatabaseUnavailable(error);
    if (COLLIDED.has(code) || TOO_SLOW.has(code) || slow) throw new DatabaseBusy(error);
    if (BAD_VALUE.has(code)) throw new UnstorableValue(error);
    if (DISK_FULL.has(code)) throw new StorageFull(error);
    throw error;
  }
}

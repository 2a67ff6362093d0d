import pg from "pg";

const CONNECT_TIMEOUT_MS = 5_000;
const MAX_CONNECTIONS = 10;
/** Error codes of a server that is not there, going down, or refusing: worth trying again, unlike a wrong query. */
const UNAVAILABLE = new Set(["ECONNREFUSED", "ECONNRESET", "ENOTFOUND", "ETIMEDOUT", "57P01", "57P02", "57P03", "08006", "08001", "53300"]);

/** The database cannot be reached now; nothing was written. */
export class DatabaseUnavailable extends Error {
  constructor(cause: unknown) {
    super("The database cannot be reached. Nothing was changed; start it and try again.", { cause });
    this.name = "DatabaseUnavailable";
  }
}

export type Queryable = Pick<pg.Pool, "query">;

// Next.js loads modules anew on every change while developing; the pool must outlive that.
const kept = globalThis as typeof globalThis & { gormitPool?: pg.Pool };

/** The one pool of this process. Throws when DATABASE_URL is missing, since pg would then silently try a default server. */
export function pool(): pg.Pool {
  if (!kept.gormitPool) {
    const connectionString = process.env.DATABASE_URL;
    if (!connectionString) throw new Error("DATABASE_URL is not set; start Gormit with `npm run demo`, or set it to a PostgreSQL");
    kept.gormitPool = new pg.Pool({ connectionString, max: MAX_CONNECTIONS, connectionTimeoutMillis: CONNECT_TIMEOUT_MS });
    // A connection that the server closes fails its query, or is replaced at the next one; unhandled, its error
    // event would end the process.
    kept.gormitPool.on("error", () => undefined);
    kept.gormitPool.on("connect", (client) => client.on("error", () => undefined));
  }
  return kept.gormitPool;
}

/** Run queries in one transaction: all of them or none. */
export async function transaction<T>(work: (client: Queryable) => Promise<T>): Promise<T> {
  return translated(async () => {
    const client = await pool().connect();
    try {
      await client.query("begin");
      const result = await work(client);
      await client.query("commit");
      return result;
    } catch (error) {
      // After a lost connection there is nothing to roll back; the first error is the one that matters.
      await client.query("rollback").catch(() => undefined);
      throw error;
    } finally {
      client.release();
    }
  });
}

/** Run one query outside a transaction. */
export async function query<R extends pg.QueryResultRow>(text: string, values: readonly unknown[] = []): Promise<R[]> {
  return translated(async () => (await pool().query<R>(text, [...values])).rows);
}

async function translated<T>(work: () => Promise<T>): Promise<T> {
  try {
    return await work();
  } catch (error) {
    const code = error instanceof Error && "code" in error ? String(error.code) : "";
    const lost = error instanceof Error && /Connection terminated|timeout exceeded when trying to connect/.test(error.message);
    throw UNAVAILABLE.has(code) || lost ? new DatabaseUnavailable(error) : error;
  }
}

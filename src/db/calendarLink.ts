import { z } from "zod";
import { query } from "@/db/client";
import { maybeTokenHash, newToken } from "@/db/privateToken";

/** A new private link of the calendar, in place of the one before: what is told here is kept nowhere. */
export async function makeCalendarLink(): Promise<string> {
  const token = newToken();
  await query(
    `insert into calendar_link (token_hash) values ($1)
     on conflict (is_only) do update set token_hash = excluded.token_hash, made_at = now()`,
    [maybeTokenHash(token)],
  );
  return token;
}

/** Since when there is a link; undefined where there is none. */
export async function maybeCalendarLinkTime(): Promise<Date | undefined> {
  const [row] = await query("select made_at from calendar_link");
  return row && z.object({ made_at: z.date() }).parse(row).made_at;
}

/** Whether a token is that of the link. */
export async function isCalendarLink(token: string): Promise<boolean> {
  const hash = maybeTokenHash(token);
  return hash !== undefined && (await query("select from calendar_link where token_hash = $1", [hash])).length > 0;
}

/** End the link. */
export async function endCalendarLink(): Promise<void> {
  await query("delete from calendar_link");
}

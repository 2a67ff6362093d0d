import { answered } from "@/app/api/respond";
import { query } from "@/db/client";

/** 200 when the app and its database answer. */
export function GET(): Promise<Response> {
  return answered(async () => {
    await query("select 1");
    return Response.json({ ok: true });
  });
}

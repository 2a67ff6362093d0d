import { answered, jsonResponse } from "@/app/api/respond";
import { databaseAnswers } from "@/db/client";

/** 200 when the app and its database answer. */
export function GET(): Promise<Response> {
  return answered(async () => {
    await databaseAnswers();
    return jsonResponse({ ok: true });
  });
}

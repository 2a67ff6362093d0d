import { answered, errorResponse } from "@/app/api/respond";
import { restoreKit } from "@/db/kit";

export function POST(_: Request, { params }: { params: Promise<{ kitId: string }> }): Promise<Response> {
  return answered(async () =>
    (await restoreKit((await params).kitId))
      ? new Response(null, { status: 204 })
      : errorResponse("not-found", "There is no deleted kit of this id."),
  );
}

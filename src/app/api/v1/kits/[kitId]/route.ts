import { answered, errorResponse } from "@/app/api/respond";
import { deleteKit } from "@/db/kit";

/** Delete a kit of one's own. Those that ship with the program stay. */
export function DELETE(_: Request, { params }: { params: Promise<{ kitId: string }> }): Promise<Response> {
  return answered(async () =>
    (await deleteKit((await params).kitId))
      ? new Response(null, { status: 204 })
      : errorResponse("not-found", "There is no such kit of your own; those that ship with the program stay."),
  );
}

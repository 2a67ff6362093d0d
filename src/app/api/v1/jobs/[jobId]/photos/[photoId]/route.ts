import { z } from "zod";
import { imageType } from "@/app/library/imageType";
import { answered, errorResponse, readBytes } from "@/app/api/respond";
import { addPhoto, maybePhoto } from "@/db/photo";

const MAX_PHOTO_BYTES = 12 * 1024 * 1024;

interface Context {
  readonly params: Promise<{ jobId: string; photoId: string }>;
}

const idsSchema = z.object({ jobId: z.uuid(), photoId: z.uuid() });

export function GET(_: Request, { params }: Context): Promise<Response> {
  return answered(async () => {
    const ids = idsSchema.safeParse(await params);
    const photo = ids.success ? await maybePhoto(ids.data.jobId, ids.data.photoId) : undefined;
    if (!photo) return errorResponse("not-found", "There is no such photo.");
    return new Response(new Uint8Array(photo.bytes), { headers: { "content-type": photo.type, "cache-control": "private, max-age=31536000, immutable", "content-disposition": "inline" } });
  });
}

/** Keep a photo; its kind is told by its bytes, not by what it says that it is. */
export function PUT(request: Request, { params }: Context): Promise<Response> {
  return answered(async () => {
    const ids = idsSchema.safeParse(await params);
    if (!ids.success) return errorResponse("not-found", "There is no such job, or it was deleted.");
    const body = await readBytes(request, MAX_PHOTO_BYTES);
    if (body.kind === "refused") return body.response;
    const type = imageType(body.value);
    if (!type) return errorResponse("invalid", "This is no photo that can be kept: JPEG, PNG or WebP.", [{ path: [], message: "not a JPEG, PNG or WebP picture" }]);
    return await addPhoto(ids.data.jobId, ids.data.photoId, type, body.value) ? Response.json({ kept: ids.data.photoId }) : errorResponse("not-found", "There is no such job, or it was deleted.");
  });
}

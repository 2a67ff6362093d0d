import { z } from "zod";
import { keptPhotoSchema } from "@/core/answers/jobAnswers";
import { answerBy, answered, errorResponse, readBytes } from "@/app/api/respond";
import { noSuchJob } from "@/app/api/v1/jobs/withJob";
import { cleanPhoto } from "@/app/library/cleanPhoto";
import { makePhotoPrint } from "@/app/library/printedPictures";
import { addPhoto, maybePhoto } from "@/db/photo";

const MAX_PHOTO_BYTES = 12 * 1024 * 1024;

interface Context {
  readonly params: Promise<{ jobId: string; photoId: string }>;
}

const idsSchema = z.object({ jobId: z.uuid(), photoId: z.uuid() });

/** A photo. A browser keeps it, and asks each time whether it is still there: with its job it goes. */
export function GET(request: Request, { params }: Context): Promise<Response> {
  return answered(async () => {
    const ids = idsSchema.safeParse(await params);
    const photo = ids.success ? await maybePhoto(ids.data.jobId, ids.data.photoId) : undefined;
    if (!photo || !ids.success) return errorResponse("not-found", "There is no such photo.");
    const headers = { etag: `"${ids.data.photoId}"`, "cache-control": "private, no-cache" };
    if (request.headers.get("if-none-match") === headers.etag) return new Response(null, { status: 304, headers });
    return new Response(new Uint8Array(photo.bytes), {
      headers: { ...headers, "content-type": photo.type, "content-disposition": "inline" },
    });
  });
}

/**
 * Keep a photo, made anew without what it says of its place; its kind is told by its content, not by what it says that
 * it is.
 */
export function PUT(request: Request, { params }: Context): Promise<Response> {
  return answered(async () => {
    const ids = idsSchema.safeParse(await params);
    if (!ids.success) return noSuchJob();
    const body = await readBytes(request, MAX_PHOTO_BYTES);
    if (body.kind === "refused") return body.response;
    const clean = await cleanPhoto(body.value);
    if (!clean)
      return errorResponse("invalid", "This is no photo that can be kept: JPEG, PNG or WebP.", [
        { path: [], message: "not a JPEG, PNG or WebP picture" },
      ]);
    const outcome = await addPhoto(ids.data.jobId, ids.data.photoId, { ...clean, sent: body.value });
    switch (outcome.kind) {
      case "kept":
        // Kept is kept: what is printed of it can be made later too.
        await makePhotoPrint(ids.data.photoId, clean.bytes).catch(() => undefined);
        return answerBy(keptPhotoSchema, { kept: ids.data.photoId });
      case "no-job":
        return noSuchJob();
      case "taken":
        return errorResponse("conflict", "Nothing was kept: this id stands for another picture already.", [
          { path: ["photoId"], message: "is taken; give each picture an id of its own" },
        ]);
      case "too-many":
        return errorResponse("too-large", outcome.why);
    }
  });
}

import { answered, errorResponse, PRIVATE } from "@/app/api/respond";
import { maybeLibraryKit } from "@/app/library/kitLibrary";

export function GET(_: Request, { params }: { params: Promise<{ kitId: string }> }): Promise<Response> {
  return answered(async () => {
    const found = await maybeLibraryKit((await params).kitId);
    if (!found) return errorResponse("not-found", "There is no such kit, or it was deleted.");
    return new Response(found.text, {
      headers: {
        ...PRIVATE,
        "content-type": "application/yaml; charset=utf-8",
        "content-disposition": `attachment; filename="${found.kit.id}.gormit-kit.yaml"`,
      },
    });
  });
}

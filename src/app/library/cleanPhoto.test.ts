import sharp from "sharp";
import { describe, expect, it } from "vitest";
import { cleanPhoto } from "@/app/library/cleanPhoto";

/** A picture wider than high, with a position and the note that it is to be turned. */
async function phonePhoto(): Promise<Buffer> {
  return sharp({ create: { width: 40, height: 20, channels: 3, background: "#884422" } })
    .withExif({ IFD0: { Make: "Somebody" }, IFD3: { GPSLatitudeRef: "N", GPSLatitude: "51/1 30/1 0/1" } })
    .withMetadata({ orientation: 6 })
    .jpeg()
    .toBuffer();
}

describe("cleanPhoto", () => {
  it("takes the position out, and turns the picture as it was meant to be seen", async () => {
    const sent = await phonePhoto();
    expect((await sharp(sent).metadata()).orientation).toBe(6);
    const kept = (await cleanPhoto(sent))!;
    const { width, height, exif, orientation } = await sharp(kept.bytes).metadata();
    expect([kept.type, width, height, exif, orientation]).toEqual(["image/jpeg", 20, 40, undefined, undefined]);
  });

  it.each(["png", "webp"] as const)("keeps %s as it is otherwise", async (format) => {
    const sent = await sharp({ create: { width: 3, height: 2, channels: 4, background: "#00000080" } })
      [format]()
      .toBuffer();
    expect(await sharp((await cleanPhoto(sent))!.bytes).metadata()).toMatchObject({ width: 3, height: 2, format });
  });

  it.each([
    ["nothing", Buffer.alloc(0)],
    ["a page", Buffer.from("<script>alert(1)</script>")],
    ["bytes that only begin like a picture", Buffer.from([0xff, 0xd8, 0xff, 0xe0, 1, 2, 3])],
    ["a drawing", Buffer.from("<svg xmlns='http://www.w3.org/2000/svg'/>")],
  ])("keeps nothing of %s", async (_, sent) => {
    expect(await cleanPhoto(sent)).toBeUndefined();
  });
});

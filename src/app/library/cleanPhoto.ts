import sharp from "sharp";
import { imageType } from "@/app/library/imageType";

/** A phone's sensor has far less; a picture that unpacks to more is made to fill the memory. */
const MOST_PIXELS = 80_000_000;
const QUALITY = 88;

// Two pictures at a time leave a core for everybody else.
sharp.concurrency(1);

/**
 * A picture made anew: turned as it is meant to be seen, without position, device and whatever else was written into
 * it. Undefined for what is no picture of the kinds that are kept, whatever it says that it is.
 */
export async function cleanPhoto(
  sent: Buffer,
): Promise<{ readonly type: "image/jpeg" | "image/png" | "image/webp"; readonly bytes: Buffer } | undefined> {
  const type = imageType(sent);
  if (!type) return undefined;
  try {
    const picture = sharp(sent, { limitInputPixels: MOST_PIXELS, failOn: "error" }).rotate();
    switch (type) {
      case "image/jpeg":
        return { type, bytes: await picture.jpeg({ quality: QUALITY }).toBuffer() };
      case "image/png":
        return { type, bytes: await picture.png().toBuffer() };
      case "image/webp":
        return { type, bytes: await picture.webp({ quality: QUALITY }).toBuffer() };
    }
  } catch {
    // Bytes that begin like a picture and are none.
    return undefined;
  }
}

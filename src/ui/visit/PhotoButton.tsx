"use client";

import { Camera } from "lucide-react";
import { useState } from "react";
import { VISIT_WORDS } from "@/ui/words/visitWords";

const MOST_BYTES = 12 * 1024 * 1024;
const TYPES = ["image/jpeg", "image/png", "image/webp"];

/** A photo from the camera or a file; one that the server would not keep is told at once. */
export function PhotoButton({
  label,
  isDisabled,
  onPhoto,
}: {
  label: string;
  isDisabled: boolean;
  onPhoto: (file: File) => void;
}) {
  const [problem, setProblem] = useState<string | undefined>();
  const take = (file: File | undefined) => {
    if (!file) return;
    const wrong = !TYPES.includes(file.type)
      ? VISIT_WORDS.thisIsNoJpegPngOrWebPPicture
      : file.size > MOST_BYTES
        ? VISIT_WORDS.thePictureHasMb12MbAreKeptTake(Math.ceil(file.size / 1024 / 1024))
        : undefined;
    setProblem(wrong);
    if (!wrong) onPhoto(file);
  };
  return (
    <>
      <label className={`btn press ${isDisabled ? "btn-disabled" : ""}`}>
        <Camera size={20} aria-hidden />
        {label}
        <input
          type="file"
          accept={TYPES.join(",")}
          capture="environment"
          className="sr-only"
          disabled={isDisabled}
          onChange={(event) => {
            const input = event.currentTarget;
            take(input.files?.[0]);
            input.value = "";
          }}
        />
      </label>
      {problem && (
        <p role="alert" className="basis-full font-semibold text-error">
          {problem}
        </p>
      )}
    </>
  );
}

"use client";

import { useEffect, useRef, useState } from "react";
import { z } from "zod";
import { VISIT_WORDS } from "@/ui/words/visitWords";

const LOOK_EVERY_MS = 300;

interface Detector {
  detect(source: HTMLVideoElement): Promise<readonly { readonly rawValue: string }[]>;
}

const codesSchema = z.array(z.object({ rawValue: z.string() }));

/** The browser's own reader of codes, where it has one. */
function detectorClass(): (new () => Detector) | undefined {
  // Not in TypeScript's library yet; what it gives is parsed below.
  return typeof window === "undefined"
    ? undefined
    : (window as unknown as { BarcodeDetector?: new () => Detector }).BarcodeDetector;
}

/** Whether this browser reads codes with the camera. */
export function canScan(): boolean {
  return detectorClass() !== undefined && typeof navigator !== "undefined" && navigator.mediaDevices !== undefined;
}

/** The camera, until it sees a code. */
export function ScanSerial({ onSerial, onClose }: { onSerial: (serial: string) => void; onClose: () => void }) {
  const { video, problem } = useCodeCamera(onSerial);
  return (
    <div className="space-y-2">
      {problem ? (
        <p role="alert" className="font-semibold text-error">
          {problem}
        </p>
      ) : (
        <video
          ref={video}
          muted
          playsInline
          className="max-h-64 w-full rounded bg-neutral"
          aria-label={VISIT_WORDS.cameraHoldTheCodeIntoThePicture}
        />
      )}
      <button type="button" className="btn press" onClick={onClose}>
        {VISIT_WORDS.closeTheCamera}
      </button>
    </div>
  );
}

/** The camera's picture for a video element; what it reads is given on. */
function useCodeCamera(onCode: (code: string) => void) {
  const video = useRef<HTMLVideoElement>(null);
  const onFound = useRef(onCode);
  const [problem, setProblem] = useState<string | undefined>();
  useEffect(() => {
    onFound.current = onCode;
  }, [onCode]);
  useEffect(() => {
    const Reader = detectorClass();
    let stream: MediaStream | undefined;
    let timer: ReturnType<typeof setInterval> | undefined;
    let isClosed = false;
    void (async () => {
      try {
        stream = await navigator.mediaDevices.getUserMedia({ video: { facingMode: "environment" } });
        const screen = video.current;
        if (isClosed || !screen || !Reader) return stream.getTracks().forEach((track) => track.stop());
        screen.srcObject = stream;
        await screen.play();
        const reader = new Reader();
        timer = setInterval(
          () =>
            void reader.detect(screen).then(
              (found) => {
                const [code] = codesSchema.parse(found);
                if (code && !isClosed) onFound.current(code.rawValue.trim());
              },
              () => undefined,
            ),
          LOOK_EVERY_MS,
        );
      } catch {
        setProblem(VISIT_WORDS.theCameraCannotBeUsedHereType);
      }
    })();
    return () => {
      isClosed = true;
      clearInterval(timer);
      stream?.getTracks().forEach((track) => track.stop());
    };
  }, []);
  return { video, problem };
}

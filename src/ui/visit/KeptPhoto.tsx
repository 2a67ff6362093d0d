"use client";

import { useEffect, useState } from "react";
import { useVisitWork } from "@/ui/workspace/workspaceContext";

interface Props {
  readonly jobId: string;
  readonly photo: string;
  readonly words: string;
}

/** A photo that was taken, small: from the server, or from this browser while it is not sent yet. */
export function KeptPhoto({ jobId, photo, words }: Props) {
  const { log } = useVisitWork();
  const waiting = log.waiting.find(({ entry }) => entry.kind === "photo" && entry.photo === photo)?.photo;
  const own = useObjectUrl(waiting);
  const src = waiting ? own : `/api/v1/jobs/${jobId}/photos/${photo}`;
  if (src === undefined) return null;
  return (
    <a href={src} target="_blank" rel="noreferrer">
      {/* eslint-disable-next-line @next/next/no-img-element -- its own route, no image service */}
      <img src={src} alt={words} className="max-h-40 rounded border border-base-300" loading="lazy" />
    </a>
  );
}

/** An address of a picture that only this page has; let go with the page's part that shows it. */
function useObjectUrl(blob: Blob | undefined): string | undefined {
  const [url, setUrl] = useState<string | undefined>();
  useEffect(() => {
    const made = blob && URL.createObjectURL(blob);
    // eslint-disable-next-line react-hooks/set-state-in-effect -- an address is made and let go, not derived
    setUrl(made);
    return () => {
      if (made !== undefined) URL.revokeObjectURL(made);
    };
  }, [blob]);
  return url;
}

"use client";

import { useEffect, useSyncExternalStore } from "react";
import { z } from "zod";
import { liveLinkSchema, liveSchema, type LiveLink } from "@/core/live/liveSchema";

/** What is read of a job, as it comes; a page that is not looked at hears nothing. */
interface Stream {
  links: readonly LiveLink[];
  isConnected: boolean;
  source: EventSource | undefined;
  readonly lookers: Set<() => void>;
}

const NOTHING: readonly LiveLink[] = [];
const goneSchema = z.object({ gone: z.string() });
const streams = new Map<string, Stream>();

/**
 * The links of a job that are read, as they change: one standing connection a page, however many parts of it look, and
 * none while nobody sees it.
 */
export function useLive(jobId: string): readonly LiveLink[] {
  const links = useSyncExternalStore(
    (changed) => {
      const stream = streamOf(jobId);
      stream.lookers.add(changed);
      listen(jobId, stream);
      return () => {
        stream.lookers.delete(changed);
        if (stream.lookers.size === 0) hush(stream);
      };
    },
    () => streams.get(jobId)?.links ?? NOTHING,
    () => NOTHING,
  );
  useEffect(() => {
    const look = () => {
      const stream = streamOf(jobId);
      if (document.visibilityState === "visible" && stream.lookers.size > 0) listen(jobId, stream);
      else hush(stream);
    };
    document.addEventListener("visibilitychange", look);
    return () => document.removeEventListener("visibilitychange", look);
  }, [jobId]);
  return links;
}

function streamOf(jobId: string): Stream {
  const stream = streams.get(jobId) ?? { links: NOTHING, isConnected: false, source: undefined, lookers: new Set() };
  streams.set(jobId, stream);
  return stream;
}

function listen(jobId: string, stream: Stream): void {
  if (stream.source && stream.source.readyState !== EventSource.CLOSED) return;
  const source = new EventSource(`/api/v1/jobs/${jobId}/live`);
  stream.source = source;
  const set = (links: readonly LiveLink[]) => {
    stream.links = links;
    for (const changed of stream.lookers) changed();
  };
  source.addEventListener("all", ({ data }: MessageEvent<string>) => {
    const parsed = liveSchema.safeParse(JSON.parse(data));
    if (parsed.success) set(parsed.data.links);
  });
  source.addEventListener("link", ({ data }: MessageEvent<string>) => {
    const parsed = liveLinkSchema.safeParse(JSON.parse(data));
    if (!parsed.success) return;
    const isThere = stream.links.some(({ link }) => link === parsed.data.link);
    set(
      isThere
        ? stream.links.map((own) => (own.link === parsed.data.link ? parsed.data : own))
        : [...stream.links, parsed.data],
    );
  });
  source.addEventListener("gone", ({ data }: MessageEvent<string>) => {
    const parsed = goneSchema.safeParse(JSON.parse(data));
    if (parsed.success) set(stream.links.filter(({ link }) => link !== parsed.data.gone));
  });
}

function hush(stream: Stream): void {
  stream.source?.close();
  stream.source = undefined;
}

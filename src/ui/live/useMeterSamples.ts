"use client";

import { useEffect, useRef, useState } from "react";
import type { LiveLink } from "@/core/live/liveSchema";
import { samplesOf } from "@/ui/live/liveCalls";

/** One power of a meter's input, or of a device itself, as it was read. */
export interface MeterSample {
  readonly device: string;
  readonly meter: string | undefined;
  readonly input: number | undefined;
  readonly powerW: number;
  readonly atMs: number;
}

const ASK_EVERY_MS = 500;
/** The clocks of this device and of the machine that reads may differ by this, and are then told apart. */
const SOME_BEFORE_MS = 60_000;
const MOST_KEPT = 20_000;

/**
 * Every power that is read of some links while this is wanted, oldest first, none left out: whoever was cut off gets
 * what came meanwhile.
 */
export function useMeterSamples(jobId: string, links: readonly LiveLink[], isWanted: boolean): readonly MeterSample[] {
  const [samples, setSamples] = useState<readonly MeterSample[]>([]);
  const newest = useRef(links);
  useEffect(() => {
    newest.current = links;
  });
  useEffect(() => {
    if (!isWanted) return;
    const lastMs = new Map<string, number>();
    let isOver = false;
    let timer: ReturnType<typeof setTimeout> | undefined;
    const ask = async () => {
      const rounds = await Promise.all(
        newest.current.map(async ({ link, devices }) => {
          const since = lastMs.get(link) ?? Date.now() - SOME_BEFORE_MS;
          const read = await samplesOf(jobId, link, since + 1);
          const last = read.at(-1);
          if (last) lastMs.set(link, last.atMs);
          return read.map(({ device, input, powerW, atMs }): MeterSample => ({
            device,
            meter: devices.find((own) => own.device === device)?.meter,
            input,
            powerW,
            atMs,
          }));
        }),
      );
      if (isOver) return;
      const added = rounds.flat().toSorted((a, b) => a.atMs - b.atMs);
      if (added.length > 0) setSamples((before) => [...before, ...added].slice(-MOST_KEPT));
      timer = setTimeout(() => void ask(), ASK_EVERY_MS);
    };
    void ask();
    return () => {
      isOver = true;
      clearTimeout(timer);
      setSamples([]);
    };
  }, [jobId, isWanted]);
  return samples;
}

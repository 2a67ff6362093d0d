"use client";

import { useEffect, useState } from "react";
import { serialsTwiceSchema, type SerialTwice } from "@/core/handover/registration/serialTwice";
import { useConnected } from "@/ui/parts/browser/useConnected";
import { callApi } from "@/ui/parts/server/apiClient";
import { useJob } from "@/ui/workspace/workspaceContext";

/**
 * Serial numbers of the open job that another device has too; none without a connection.
 *
 * @param lines Of the log: with each there may be another serial number.
 */
export function useSerialsTwice(lines: number): readonly SerialTwice[] {
  const { id } = useJob();
  const isConnected = useConnected();
  const [twice, setTwice] = useState<readonly SerialTwice[]>([]);
  useEffect(() => {
    if (!isConnected) return;
    void callApi("GET", `/api/v1/jobs/${id}/serials-twice`, serialsTwiceSchema)
      .then((answer) => answer.kind === "ok" && setTwice(answer.value.twice))
      .catch(() => undefined);
  }, [id, lines, isConnected]);
  return twice;
}

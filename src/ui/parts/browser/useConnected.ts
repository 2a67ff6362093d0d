import { useSyncExternalStore } from "react";

/** Whether the server was reached when it was asked last; a device may have a network in which it is not. */
let isReached = true;
const listeners = new Set<() => void>();

/** Ask the server, and remember whether it was reached. Throws as fetch does. */
export async function fetchFromServer(path: string, init: RequestInit): Promise<Response> {
  try {
    const response = await fetch(path, init);
    tell(true);
    return response;
  } catch (error) {
    tell(false);
    throw error;
  }
}

/** Whether the server is to be reached, as far as this device knows. */
export function useConnected(): boolean {
  return useSyncExternalStore(
    subscribe,
    () => navigator.onLine && isReached,
    () => true,
  );
}

function subscribe(changed: () => void): () => void {
  listeners.add(changed);
  window.addEventListener("online", changed);
  window.addEventListener("offline", changed);
  return () => {
    listeners.delete(changed);
    window.removeEventListener("online", changed);
    window.removeEventListener("offline", changed);
  };
}

function tell(isThere: boolean): void {
  if (isReached === isThere) return;
  isReached = isThere;
  for (const changed of listeners) changed();
}

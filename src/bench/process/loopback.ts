import net from "node:net";

const HOST = "127.0.0.1";
const TRIES = 5;

/**
 * Start a server that must be told its port on a free one of loopback. Between the look and the start another may take
 * it; then the next is tried.
 */
export async function freeServer<T>(start: (port: number) => Promise<T>): Promise<T> {
  for (let left = TRIES; ; left--) {
    const probe = net.createServer();
    const port = await listening(probe);
    await new Promise((closed) => probe.close(closed));
    try {
      return await start(port);
    } catch (error) {
      if (left === 0) throw error;
    }
  }
}

/** Let a server listen on a port of loopback, a free one by itself, and nowhere else. */
export function listening(server: net.Server, onPort = 0): Promise<number> {
  return new Promise((resolve, reject) => {
    server.once("error", reject);
    server.listen({ host: HOST, port: onPort }, () => resolve((server.address() as net.AddressInfo).port));
  });
}

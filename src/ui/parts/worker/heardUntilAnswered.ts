import * as Comlink from "comlink";

/**
 * Ask a worker, and hear how far its work has come; nothing is heard once the answer is there. Progress comes by a
 * port of its own, so its last word may arrive after the answer: taken then, it would say for ever that work goes on.
 *
 * For example: `heardUntilAnswered((onProgress) => worker.diagnose(request, onProgress), showProgress)`.
 */
export async function heardUntilAnswered<P, R>(
  ask: (onProgress: (progress: P) => void) => Promise<R>,
  hear: (progress: P) => void,
): Promise<R> {
  let isAnswered = false;
  const onProgress = Comlink.proxy((progress: P) => {
    if (!isAnswered) hear(progress);
  });
  try {
    return await ask(onProgress);
  } finally {
    isAnswered = true;
  }
}

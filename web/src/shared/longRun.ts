/** Work that takes long: handed to a worker, looked after until it is done, cancelled when nobody waits any more. */
import { askJob, cancelJob, readJob } from "../api/client";
import type { Job, JobAsked } from "../api/types";

const LOOK_MS = 600;

const pause = (ms: number, signal: AbortSignal) =>
  new Promise<void>((resolve, reject) => {
    const timer = setTimeout(resolve, ms);
    signal.addEventListener(
      "abort",
      () => {
        clearTimeout(timer);
        reject(new DOMException("cancelled", "AbortError"));
      },
      { once: true },
    );
  });

export async function longRun(
  asked: JobAsked,
  designId: string | null,
  signal: AbortSignal,
  onProgress: (share: number, job: Job) => void,
): Promise<Job> {
  const { id } = await askJob(asked, designId, signal);
  try {
    for (;;) {
      await pause(LOOK_MS, signal);
      const job = await readJob(id, signal);
      if (job.state === "done") return job;
      if (job.state === "failed") throw new Error(`It ended without an answer: ${job.trouble}.`);
      if (job.state === "cancelled") throw new Error("It was cancelled.");
      onProgress(job.progress, job);
    }
  } catch (error) {
    if (signal.aborted) void cancelJob(id);
    throw error;
  }
}

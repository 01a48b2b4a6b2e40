/** Sends a file part by part: a large one needs no large request, and goes on where it was when the line breaks. */
import { client, Failed, sendPart, unwrap } from "../api/client";
import { upload as say } from "../texts/lib";

/** What is waited for a line or a server to come back, try after try. */
const WAITS_MS = [500, 1000, 2000, 5000, 10_000];
const wait = (ms: number) => new Promise((done) => setTimeout(done, ms));

/** The number of the upload once all of it is there. told: the share sent so far. The signal stops it, and the server forgets what it has. */
export async function upload(file: File, told: (share: number) => void, signal?: AbortSignal): Promise<number> {
  const made = await unwrap(client.POST("/api/uploads", { body: { name: file.name, size: file.size } }));
  let [received, failed] = [0, 0];
  while (received < file.size) {
    if (signal?.aborted) {
      await client.DELETE("/api/uploads/{upload_id}", { params: { path: { upload_id: made.id } } });
      throw new Failed({ code: "stopped", message: say.stoppedNothingWasRead }, 0);
    }
    try {
      received = await sendPart(made.id, received, file.slice(received, received + made.most_part));
      failed = 0;
    } catch (error) {
      const place = error instanceof Failed ? error.error.received : undefined;
      // The server knows how far it is; and a broken line or a busy server is waited for.
      const waits = error instanceof Failed && (error.status === 0 || error.status >= 500);
      failed += 1;
      const pause = WAITS_MS[failed - 1];
      if (pause === undefined) throw error;
      if (place !== undefined) received = place;
      else if (waits) await wait(pause);
      else throw error;
    }
    told(received / file.size);
  }
  return made.id;
}

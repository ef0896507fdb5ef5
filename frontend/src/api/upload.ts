// One upload: raw bytes in slices, its progress by bytes, its errors in words. After a cut it goes on where it was.
// XMLHttpRequest, because fetch tells no upload progress.
import { AWAKE, wasTouched } from "./awake";
import { client, csrfToken, data, type Schemas, Trouble, troubleOf, UNREACHED } from "./client";

const SLICE = 8 << 20;
const PAUSES = [1000, 2000, 4000, 8000, 15000];

type Sent = Schemas["ReceivedOut"] | Schemas["PartOut"];

export function sendFile(
  file: File,
  upload: string,
  progress: (sent: number) => void,
  area: number | null,
  folder: string | null,
): { done: Promise<Schemas["ReceivedOut"]>; stop: () => void } {
  const stopped = { yes: false };
  let request: XMLHttpRequest | null = null;
  const query = new URLSearchParams({ name: file.name });
  if (area !== null) query.set("area", String(area));
  if (folder !== null) query.set("folder", folder);

  const send = (first: number, past: number) =>
    new Promise<Sent>((resolve, reject) => {
      request = new XMLHttpRequest();
      const sending = request;
      sending.upload.onprogress = (event) => progress(first + event.loaded);
      sending.onload = () => {
        let body: unknown;
        try {
          body = JSON.parse(sending.responseText);
        } catch {
          body = undefined;
        }
        if (sending.status >= 200 && sending.status < 300) resolve(body as Sent);
        else reject(troubleOf(sending.status, body));
      };
      const kept = file.size > SLICE ? "it goes on when you send it again" : "nothing of it was kept";
      sending.onerror = () => reject(new Trouble(`${UNREACHED} The upload broke off; ${kept}.`, 0, "unreached"));
      sending.onabort = () => reject(new Trouble("Stopped by you.", 0, "stopped"));
      sending.open("PUT", `/api/uploads/${upload}?${query}`);
      sending.setRequestHeader("X-Waka-CSRF", csrfToken());
      if (wasTouched()) sending.setRequestHeader(AWAKE, "1");
      sending.setRequestHeader("Content-Type", "application/octet-stream");
      // a small file goes whole, in one request
      if (file.size > SLICE) sending.setRequestHeader("Content-Range", `bytes ${first}-${past - 1}/${file.size}`);
      sending.send(file.size > SLICE ? file.slice(first, past) : file);
    });

  const all = async (): Promise<Schemas["ReceivedOut"]> => {
    let at = file.size > SLICE ? await here(upload) : 0;
    let failures = 0;
    for (;;) {
      try {
        const sent = await send(at, Math.min(at + SLICE, file.size));
        if ("id" in sent) return sent;
        at = sent.here;
        failures = 0;
      } catch (error) {
        const code = error instanceof Trouble ? error.code : "";
        // a large file goes on where it was cut; what only has to wait is sent again, under the same upload id
        const again =
          (file.size > SLICE && ["unreached", "elsewhere"].includes(code)) || ["busy", "starting"].includes(code);
        const pause = PAUSES[failures];
        if (stopped.yes || !again || pause === undefined) throw error;
        failures += 1;
        await new Promise((resolve) => setTimeout(resolve, pause));
        if (stopped.yes) throw new Trouble("Stopped by you.", 0, "stopped");
        if (file.size > SLICE) at = await here(upload).catch(() => at);
      }
    }
  };
  return {
    done: all(),
    stop: () => {
      stopped.yes = true;
      request?.abort();
    },
  };
}

/** How many bytes of an upload have come already. */
async function here(upload: string): Promise<number> {
  const got = await data(client.GET("/api/uploads/{upload}", { params: { path: { upload } } }));
  return got.here;
}

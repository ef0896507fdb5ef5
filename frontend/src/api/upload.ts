// One upload: raw bytes, its progress by bytes, its errors in words. XMLHttpRequest, because fetch tells no upload progress.
import { csrfToken, type Schemas, Trouble, troubleOf, UNREACHED } from "./client";

export function sendFile(
  file: File,
  upload: string,
  progress: (sent: number) => void,
  area: number | null,
): { done: Promise<Schemas["ReceivedOut"]>; stop: () => void } {
  const request = new XMLHttpRequest();
  const query = new URLSearchParams({ name: file.name });
  if (area !== null) query.set("area", String(area));
  const done = new Promise<Schemas["ReceivedOut"]>((resolve, reject) => {
    request.upload.onprogress = (event) => progress(event.loaded);
    request.onload = () => {
      let body: unknown;
      try {
        body = JSON.parse(request.responseText);
      } catch {
        body = undefined;
      }
      if (request.status >= 200 && request.status < 300) resolve(body as Schemas["ReceivedOut"]);
      else reject(troubleOf(request.status, body));
    };
    request.onerror = () =>
      reject(new Trouble(`${UNREACHED.split(".")[0]}. The upload broke off; nothing of it was kept.`, 0, "unreached"));
    request.onabort = () => reject(new Trouble("Stopped by you; nothing of it was kept.", 0, "stopped"));
  });
  request.open("PUT", `/api/uploads/${upload}?${query}`);
  request.setRequestHeader("X-Waka-CSRF", csrfToken());
  request.setRequestHeader("Content-Type", "application/octet-stream");
  request.send(file);
  return { done, stop: () => request.abort() };
}

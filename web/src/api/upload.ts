import { antiForgery, NotSent, problemOf } from "./client";
import { keepUnsent } from "./unsent";

/** Sends one photo with its progress; the id makes a repeated sending the same photo. */
export function sendPhoto(
  buildId: string,
  id: string,
  file: File,
  words: { caption?: string; stage?: string; operationId?: string },
  onShare: (share: number) => void,
): Promise<void> {
  return new Promise((resolve, reject) => {
    const form = new FormData();
    form.append("file", file);
    for (const [k, v] of Object.entries(words)) if (v) form.append(k, v);
    const request = new XMLHttpRequest();
    request.open("POST", `/api/builds/${buildId}/photos/${id}`);
    for (const [k, v] of Object.entries(antiForgery())) request.setRequestHeader(k, v);
    request.upload.onprogress = (e) => e.lengthComputable && onShare(e.loaded / e.total);
    request.onerror = () => {
      const fields = Object.fromEntries(Object.entries(words).filter(([, v]) => v)) as Record<string, string>;
      if (typeof indexedDB === "undefined") reject(new NotSent());
      else
        keepUnsent("POST", `/api/builds/${buildId}/photos/${id}`, null, { file, name: file.name, fields }).then(reject, () =>
          reject(new NotSent()),
        );
    };
    request.onload = () => {
      if (request.status < 300) return resolve();
      let body: unknown;
      try {
        body = JSON.parse(request.responseText);
      } catch {
        body = {};
      }
      reject(problemOf(request.status, body));
    };
    request.send(form);
  });
}

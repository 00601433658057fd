import { type Artwork, Problem, csrfToken, problemFrom } from "./client";

/** Send a picture file to an address of the API that takes one in; `onProgress` gets the share sent, 0 to 1. Rejects with a Problem. */
export function sendPicture(
  address: string,
  file: File,
  onProgress: (share: number) => void,
): Promise<Artwork> {
  // XMLHttpRequest, since fetch tells nothing of the progress of an upload.
  return new Promise((resolve, reject) => {
    const request = new XMLHttpRequest();
    request.open("POST", address);
    request.setRequestHeader("X-CSRFToken", csrfToken());
    request.responseType = "json";
    request.upload.onprogress = (event) => {
      if (event.lengthComputable) onProgress(event.loaded / event.total);
    };
    request.onload = () => {
      if (request.status < 300) resolve(request.response as Artwork);
      else reject(problemFrom(request.response));
    };
    request.onerror = () =>
      reject(
        new Problem("unreachable", "The file could not be sent. Is Bexi still running? Choose it again."),
      );
    const form = new FormData();
    form.append("file", file);
    request.send(form);
  });
}

import { answer, type Artwork, client, Problem } from "./client";

/** Send a picture file to an address of the API that takes one in; `onProgress` gets the share sent, 0 to 1. Rejects with a Problem. */
export function sendPicture(
  address: string,
  file: File,
  onProgress: (share: number) => void,
): Promise<Artwork> {
  const form = new FormData();
  form.append("file", file);
  return answer(
    client.POST(address as "/api/artwork", {
      body: form as never,
      bodySerializer: (body) => body as never,
      fetch: (request) => sent(request, form, onProgress),
    }),
  );
}

/** What fetch does, by XMLHttpRequest, since fetch tells nothing of the progress of an upload. */
function sent(request: Request, form: FormData, onProgress: (share: number) => void): Promise<Response> {
  return new Promise((resolve, reject) => {
    const sending = new XMLHttpRequest();
    sending.open(request.method, request.url);
    request.headers.forEach((value, name) => {
      if (name !== "content-type") sending.setRequestHeader(name, value); // the form has its own boundary
    });
    sending.responseType = "blob";
    sending.upload.onprogress = (event) => {
      if (event.lengthComputable) onProgress(event.loaded / event.total);
    };
    sending.onload = () => {
      const type = sending.getResponseHeader("content-type") ?? "";
      resolve(
        new Response(sending.response as Blob, { status: sending.status, headers: { "content-type": type } }),
      );
    };
    sending.onerror = () =>
      reject(
        new Problem("unreachable", "The file could not be sent. Is Bexi still running? Choose it again."),
      );
    sending.send(form);
  });
}

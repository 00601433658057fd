/** Files that the browser is to save. */

/** Under which a file made for a site is saved. */
export const fileNameOf = (name: string, size: number, format: string) =>
  `${
    name
      .toLowerCase()
      .replace(/[^a-z0-9]+/g, "-")
      .replace(/^-|-$/g, "") || "icon"
  }-${size}.${format}`;

/** Has the browser save a file under a name. */
export function download(address: string, name: string): void {
  const link = document.createElement("a");
  link.href = address;
  link.download = name;
  document.body.append(link);
  link.click();
  link.remove();
}

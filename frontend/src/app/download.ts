/** Has the browser save a file under a name. */
export function download(address: string, name: string): void {
  const link = document.createElement("a");
  link.href = address;
  link.download = name;
  document.body.append(link);
  link.click();
  link.remove();
}

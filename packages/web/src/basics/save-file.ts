/** Hands a file to the browser to be saved. Letters that file systems don't take become hyphens. */
export function saveFile(name: string, content: Blob): void {
  const address = URL.createObjectURL(content);
  const link = document.createElement('a');
  link.href = address;
  link.download = name.replaceAll(/[\\/:*?"<>|\p{Cc}]/gu, '-');
  link.click();
  // the browser has begun to read it by then
  setTimeout(() => URL.revokeObjectURL(address), 60_000);
}

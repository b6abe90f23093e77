/** How long a printed file is kept after its dialog was opened, ms: browsers don't say when they have read it. */
const KEPT_MS = 10 * 60_000;

/** Opens the browser's way to print a PDF. */
export function printFile(file: Blob): void {
  const address = URL.createObjectURL(file);
  const frame = document.createElement('iframe');
  frame.hidden = true;
  frame.src = address;
  frame.title = 'Sheets on their way to the printer';
  frame.addEventListener('load', () => frame.contentWindow?.print());
  document.body.append(frame);
  setTimeout(() => {
    frame.remove();
    URL.revokeObjectURL(address);
  }, KEPT_MS);
}

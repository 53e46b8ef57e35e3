/** Asks for a file; null where none was chosen. @param accept extensions, as of a file input */
export function pickFile(accept: string): Promise<File | null> {
  const input = document.createElement('input');
  Object.assign(input, { type: 'file', accept });
  return new Promise((resolve) => {
    input.onchange = () => resolve(input.files?.[0] ?? null);
    input.oncancel = () => resolve(null);
    input.click();
  });
}

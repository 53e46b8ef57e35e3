/** Gives a text to the person as a file to keep. */
export function saveFile(name: string, text: string): void {
  const link = document.createElement('a');
  link.href = URL.createObjectURL(new Blob([text], { type: 'application/json' }));
  link.download = name.replaceAll(/[^\p{L}\p{N} ._-]/gu, '_');
  link.click();
  URL.revokeObjectURL(link.href);
}

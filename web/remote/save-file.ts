/** Gives something to the person as a file to keep. @param content a text is taken for JSON */
export function saveFile(name: string, content: string | Blob): void {
  const link = document.createElement('a');
  const blob = typeof content === 'string' ? new Blob([content], { type: 'application/json' }) : content;
  link.href = URL.createObjectURL(blob);
  link.download = name.replaceAll(/[^\p{L}\p{N} ._-]/gu, '_');
  link.click();
  URL.revokeObjectURL(link.href);
}

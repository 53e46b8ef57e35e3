/** Text files as people's machines write them: UTF-8 or any Unicode encoding with a mark, any line ends. */

/**
 * @returns the text with `\n` line ends, and what was unusual about it, as phrases
 * @throws RangeError when the bytes are no text
 */
export function decodeText(bytes: Uint8Array, where: string): { text: string; notes: string[] } {
  const notes: string[] = [];
  const label = encodingOf(bytes);
  if (label !== 'utf-8') notes.push(`text in ${label.toUpperCase()}`);
  let text = new TextDecoder(label).decode(bytes);
  if (text.charCodeAt(0) === 0xfeff) text = text.slice(1);
  if (text.slice(0, 4096).includes('\0')) throw new RangeError(`${where}: is not text`);
  if (text.includes('\r')) {
    if (/\r(?!\n)/.test(text)) notes.push('line ends of a carriage return alone');
    text = text.replace(/\r\n?/g, '\n');
  }
  return { text, notes };
}

/** By its mark; without one by where the zeros of plain Latin text stand. */
function encodingOf(bytes: Uint8Array): string {
  const [a, b, c, d] = bytes;
  if ((a === 0xff && b === 0xfe) || (a && !b && c && !d && bytes.length > 3)) return 'utf-16le';
  if ((a === 0xfe && b === 0xff) || (!a && b && !c && d)) return 'utf-16be';
  return 'utf-8';
}

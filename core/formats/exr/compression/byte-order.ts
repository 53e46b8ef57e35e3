/**
 * What ZIP and RLE do before they pack: bytes as differences from the one before, even and odd ones apart.
 * Source: the OpenEXR file layout document.
 */
export function restored(packed: Uint8Array): Uint8Array {
  const { length } = packed;
  let last = packed[0];
  for (let i = 1; i < length; i++) packed[i] = last = (last + packed[i] - 128) & 255;
  const out = new Uint8Array(length);
  const half = (length + 1) >> 1;
  const pairs = length >> 1;
  for (let i = 0, at = 0; i < pairs; i++, at += 2) {
    out[at] = packed[i];
    out[at + 1] = packed[half + i];
  }
  if (length & 1) out[length - 1] = packed[half - 1];
  return out;
}

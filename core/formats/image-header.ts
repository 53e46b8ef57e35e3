/**
 * What the first bytes of an image say of it. Sources: PNG third edition; ITU-T T.81 (JPEG), annex B; OpenEXR file
 * layout; the Radiance picture format's man page; Debevec's PFM.
 */
export interface ImageHeader {
  kind: 'PNG' | 'JPEG' | 'OpenEXR' | 'Radiance HDR' | 'PFM' | 'TIFF';
  /** 0 where they could not be read. */
  width: number;
  height: number;
  channels: number;
  /** Of one channel; 16 and 32 of EXR and PFM are floating point. */
  bits: number;
}

/** Null when the bytes begin as no image that is known here. */
export function readImageHeader(bytes: Uint8Array): ImageHeader | null {
  const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength);
  if (bytes.length < 16) return null;
  const first = view.getUint32(0);
  if (first === 0x89504e47 && bytes.length >= 33) {
    const channels: Record<number, number> = { 0: 1, 2: 3, 3: 3, 4: 2, 6: 4 };
    return { kind: 'PNG', width: view.getUint32(16), height: view.getUint32(20), channels: channels[bytes[25]] ?? 3, bits: bytes[24] }; // prettier-ignore
  }
  if (first >>> 8 === 0xffd8ff) return jpeg(view);
  if (first === 0x762f3101) return exr(bytes, view);
  if (first === 0x49492a00 || first === 0x4d4d002a) return { kind: 'TIFF', width: 0, height: 0, channels: 0, bits: 0 };
  const text = new TextDecoder().decode(bytes.subarray(0, 512));
  const pfm = /^P([Ff])\s+(\d+)\s+(\d+)\s/.exec(text);
  if (pfm) return { kind: 'PFM', width: +pfm[2], height: +pfm[3], channels: pfm[1] === 'F' ? 3 : 1, bits: 32 };
  if (text.startsWith('#?')) {
    const size = /\n[-+]Y (\d+) [-+]X (\d+)\n/.exec(text);
    return { kind: 'Radiance HDR', width: +(size?.[2] ?? 0), height: +(size?.[1] ?? 0), channels: 3, bits: 32 };
  }
  return null;
}

function jpeg(view: DataView): ImageHeader {
  const header: ImageHeader = { kind: 'JPEG', width: 0, height: 0, channels: 0, bits: 8 };
  for (let at = 2; at + 9 < view.byteLength;) {
    const marker = view.getUint8(at + 1);
    // A frame header, of whatever process; C4, C8 and CC are none.
    if (marker >= 0xc0 && marker <= 0xcf && ![0xc4, 0xc8, 0xcc].includes(marker))
      return { ...header, bits: view.getUint8(at + 4), height: view.getUint16(at + 5), width: view.getUint16(at + 7), channels: view.getUint8(at + 9) }; // prettier-ignore
    at += 2 + view.getUint16(at + 2);
  }
  return header;
}

function exr(bytes: Uint8Array, view: DataView): ImageHeader {
  const header: ImageHeader = { kind: 'OpenEXR', width: 0, height: 0, channels: 0, bits: 16 };
  const word = (from: number): [string, number] => {
    let end = from;
    while (end < bytes.length && bytes[end]) end += 1;
    return [new TextDecoder().decode(bytes.subarray(from, end)), end + 1];
  };
  for (let at = 8; at < bytes.length && bytes[at];) {
    const [name, afterName] = word(at);
    const [, afterType] = word(afterName);
    if (afterType + 4 > bytes.length) break;
    const size = view.getUint32(afterType, true);
    const value = afterType + 4;
    if (value + size > bytes.length) break;
    if (name === 'dataWindow') {
      header.width = view.getInt32(value + 8, true) - view.getInt32(value, true) + 1;
      header.height = view.getInt32(value + 12, true) - view.getInt32(value + 4, true) + 1;
    } else if (name === 'channels')
      for (let c = value; c < value + size && bytes[c]; c += 16) {
        [, c] = word(c);
        header.channels += 1;
        if (view.getInt32(c, true) !== 1) header.bits = 32;
      }
    at = value + size;
  }
  return header;
}

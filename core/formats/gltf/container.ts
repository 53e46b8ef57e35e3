/** The JSON and the binary chunk of a .glb, or the JSON of a .gltf. */
import { DEEPEST, jsonDepth } from '../../document/json-text.ts';
import { checkHeader } from '../gltf.ts';
import { decodeText } from '../text.ts';
import type { GltfJson } from './check.ts';

const JSON_CHUNK = 0x4e4f534a;
const BINARY_CHUNK = 0x004e4942;

export interface GltfContainer {
  json: GltfJson;
  binary: Uint8Array | null;
  notes: string[];
}

/** @throws RangeError that names the file */
export function openContainer(bytes: Uint8Array, file: string): GltfContainer {
  const isBinary = bytes.length >= 4 && String.fromCharCode(...bytes.subarray(0, 4)) === 'glTF';
  if (!isBinary) return { ...parse(bytes, file), binary: null };
  checkHeader(bytes, file);
  const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength);
  const end = view.getUint32(8, true);
  let text: Uint8Array | null = null;
  let binary: Uint8Array | null = null;
  for (let at = 12; at + 8 <= end;) {
    const length = view.getUint32(at, true);
    const kind = view.getUint32(at + 4, true);
    if (at + 8 + length > end) throw new RangeError(`${file}: its chunk at byte ${at} ends after the file`);
    const chunk = bytes.subarray(at + 8, at + 8 + length);
    if (kind === JSON_CHUNK) text ??= chunk;
    else if (kind === BINARY_CHUNK) binary ??= chunk;
    at += 8 + length + ((4 - (length % 4)) % 4);
  }
  if (!text) throw new RangeError(`${file}: has no JSON chunk`);
  return { ...parse(text, file), binary };
}

function parse(bytes: Uint8Array, file: string): { json: GltfJson; notes: string[] } {
  const { text, notes } = decodeText(bytes, file);
  if (jsonDepth(text) > DEEPEST) throw new RangeError(`${file}: its JSON is nested more than ${DEEPEST} levels deep`);
  try {
    return { json: JSON.parse(text) as GltfJson, notes };
  } catch (error) {
    throw new RangeError(`${file}: is not readable glTF: its JSON breaks (${(error as Error).message})`, {
      cause: error,
    });
  }
}

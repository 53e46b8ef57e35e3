/** The two standard classes that every host of the core has, Node and browsers alike; nothing else of theirs is used. */
declare class TextEncoder {
  encode(text: string): Uint8Array;
}
declare class TextDecoder {
  decode(bytes: Uint8Array): string;
}

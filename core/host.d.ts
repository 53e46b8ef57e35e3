/** What of the standards every host of the core has, Node and browsers alike; nothing else of theirs is used. */
declare class TextEncoder {
  encode(text: string): Uint8Array;
}
declare class TextDecoder {
  constructor(label?: string);
  decode(bytes: Uint8Array): string;
}
declare function atob(text: string): string;

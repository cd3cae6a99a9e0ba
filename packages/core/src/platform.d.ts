/** All that the core takes from the platform it runs on: text as UTF-8 bytes and back, the same in browsers, workers and Node. */
declare class TextEncoder {
  encode(text?: string): Uint8Array<ArrayBuffer>;
}
declare class TextDecoder {
  constructor(label?: string, options?: { fatal?: boolean; ignoreBOM?: boolean });
  decode(bytes?: Uint8Array): string;
}

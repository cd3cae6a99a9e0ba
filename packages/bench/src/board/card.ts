export interface CardFile {
  name: string;
  bytes: Uint8Array;
}

/** A memory card as it lies on the desk. */
export interface Card {
  format: 'FAT32' | 'exFAT';
  sizeGb: number;
  files: CardFile[];
}

/** What shots hold on the disk. */

export interface StoredPart {
  kind: 'version' | 'render' | 'pictures' | 'log';
  id: number;
  title: string;
  /** Bytes that deleting it frees: nothing else refers to them. */
  bytes: number;
  /** Why it cannot be deleted; null: it can. */
  why: string | null;
}

export interface ShotStorage {
  code: string;
  /** Bytes that it refers to, other shots or not. */
  bytes: number;
  /** Bytes that deleting the whole shot frees. */
  freed: number;
  parts: StoredPart[];
}

export interface DiskTold {
  /** Bytes that shots hold. */
  held: number;
  /** Bytes left on the disk, and its size. */
  free: number;
  size: number;
}

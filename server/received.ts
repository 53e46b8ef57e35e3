/** What came in with a request, and stands on the disk until the request is answered. */

export interface ReceivedFile {
  place: string;
  bytes: number;
  /** SHA-256 of the bytes. */
  hash: string;
  /** Aborted when the sender is gone. */
  gone: AbortSignal;
}

export interface Upload {
  /** Where its files stand, archives unpacked. */
  folder: string;
  /** Where something may be written meanwhile. */
  beside: string;
  bytes: number;
  /** Aborted when the sender is gone. */
  gone: AbortSignal;
}

/** zlib streams where there is no Node: through fflate. What is wrong with one is a RangeError. */
import { unzlibSync } from 'fflate';

/** @param most bytes that may come out */
export function inflate(bytes: Uint8Array, most: number): Uint8Array {
  try {
    return unzlibSync(bytes, { out: new Uint8Array(most) });
  } catch (error) {
    throw new RangeError(`its bytes cannot be unpacked (${(error as Error).message})`, { cause: error });
  }
}

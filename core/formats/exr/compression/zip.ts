/** ZIP and ZIPS: zlib over bytes in another order. Source: the OpenEXR file layout document. */
import { needSize, type Unpack } from './compression.ts';

export const unpackZip: Unpack = ({ bytes, size, inflate, restore }) => restore(needSize(inflate(bytes, size), size));

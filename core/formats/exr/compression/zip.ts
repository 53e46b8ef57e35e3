/** ZIP and ZIPS: zlib over bytes in another order. Source: the OpenEXR file layout document. */
import { restored } from './byte-order.ts';
import { needSize, type Unpack } from './compression.ts';

export const unpackZip: Unpack = ({ bytes, size, inflate }) => restored(needSize(inflate(bytes, size), size));

/** What unpacks the parts of scenes that are packed, on Node; each is made when a file first needs it. */
import type { ReadOptions } from '../core/formats/scene-reading.ts';
import { dracoDecoder } from './draco.ts';
import { ktx2Transcoder } from './ktx2.ts';

export const decoders: Pick<ReadOptions, 'draco' | 'ktx2'> = { draco: dracoDecoder, ktx2: ktx2Transcoder };

/** The decoder of Draco's compressed meshes for Node, made when a file first needs it; for the core. */
import draco from 'draco3dgltf';

let made: Promise<unknown> | null = null;

export const dracoDecoder = (): Promise<unknown> => (made ??= draco.createDecoderModule());

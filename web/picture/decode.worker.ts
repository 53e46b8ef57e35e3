/** Decodes for the worker that keeps pictures: chunks of an EXR into memory that both see, or another format whole. */
import { decodeChunks, type ExrPlane, type OpenedExr } from '../../core/formats/exr/read.ts';
import { ExrReading } from '../../core/formats/exr/reading.ts';
import { inflate } from '../../core/formats/inflate.ts';
import { readPictureFile, type PictureFile } from '../../core/formats/picture-file.ts';
import { exrMeans } from './unpacking.ts';

export type DecodeRequest = { id: number; name: string; bytes: Uint8Array } & (
  | { do: 'whole' }
  | {
      do: 'chunks';
      opened: Omit<OpenedExr, 'reading'>;
      part: number;
      /** In memory that both see. */
      planes: Map<string, ExrPlane>;
      chunks: { from: number; to: number };
    }
);

export type DecodeAnswer = { id: number } & ({ file: PictureFile } | { missingChunks: number } | { error: string });

self.onmessage = ({ data }: MessageEvent<DecodeRequest>) => void answer(data);

async function answer(request: DecodeRequest): Promise<void> {
  const { id, name, bytes } = request;
  try {
    if (request.do === 'whole') {
      const file = await readPictureFile(bytes, name, { inflate, means: await exrMeans() });
      const moved = file.parts.flatMap(({ planes }) => [...planes.values()].map((plane) => plane.buffer as ArrayBuffer)); // prettier-ignore
      self.postMessage({ id, file } satisfies DecodeAnswer, { transfer: [...new Set(moved)] });
      return;
    }
    const { opened, part, planes, chunks } = request;
    const reading = new ExrReading(bytes, name);
    const { missingChunks } = decodeChunks({ ...opened, reading }, part, planes, inflate, { ...chunks, means: await exrMeans() }); // prettier-ignore
    self.postMessage({ id, missingChunks } satisfies DecodeAnswer);
  } catch (error) {
    self.postMessage({ id, error: (error as Error).message } satisfies DecodeAnswer);
  }
}

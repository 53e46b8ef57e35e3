/** Beside the page: unpacks pictures and turns them into display bytes. The page thread only draws. */
import { unpackPicture } from '../../core/picture/planes.ts';
import { viewColour, viewDirection, viewIds, viewPlace, viewScale, type View } from '../../core/picture/view.ts';
import type { PassLook } from '../../core/render/film/pass-list.ts';
import type { Picture } from '../../core/data/picture.ts';

export type WorkerRequest =
  | { id: number; do: 'load'; key: string; bytes: ArrayBuffer }
  | { id: number; do: 'draw'; key: string; look: PassLook; view: View; top: number }
  | { id: number; do: 'forget'; key: string };

export interface Loaded {
  width: number;
  height: number;
  x: number;
  y: number;
  revision: number;
}

export type WorkerAnswer = { id: number; result: Loaded | ImageData | null } | { id: number; error: string };

const pictures = new Map<string, Picture>();

function load(key: string, bytes: ArrayBuffer): Loaded {
  const { picture, facts } = unpackPicture(bytes);
  pictures.set(key, picture);
  const { width, height, x, y } = picture;
  return { width, height, x, y, revision: facts.revision };
}

function draw(key: string, look: PassLook, view: View, top: number): ImageData | null {
  const picture = pictures.get(key);
  if (!picture) return null;
  const out = new Uint8ClampedArray(picture.width * picture.height * 4);
  const planes = [...picture.channels.values()];
  const [a, b, c] = planes;
  switch (look) {
    case 'light':
      viewColour(a, b, c, view, out);
      break;
    case 'direction':
      viewDirection(a, b, c, out);
      break;
    case 'place':
      viewPlace(planes, out);
      break;
    case 'id':
      viewIds(a, out);
      break;
    case 'flow':
      viewScale(lengths(a, b), top / 2 ** view.exposure, out);
      break;
    default:
      viewScale(a, top / 2 ** view.exposure, out);
  }
  return new ImageData(out, picture.width, picture.height);
}

const lengths = (x: Float32Array, y: Float32Array): Float32Array => x.map((v, i) => Math.hypot(v, y[i]));

self.onmessage = ({ data }: MessageEvent<WorkerRequest>) => {
  let answer: WorkerAnswer;
  try {
    const result =
      data.do === 'load'
        ? load(data.key, data.bytes)
        : data.do === 'draw'
          ? draw(data.key, data.look, data.view, data.top)
          : (pictures.delete(data.key), null);
    answer = { id: data.id, result };
  } catch (error) {
    answer = { id: data.id, error: (error as Error).message };
  }
  const moved = 'result' in answer && answer.result instanceof ImageData ? [answer.result.data.buffer] : [];
  self.postMessage(answer, { transfer: moved });
};

/** Beside the page: keeps pictures, draws what is on screen of them, measures and compares them. */
import type { Answers, DeskRequest, FromDesk } from './desk-messages.ts';
import { causes } from './desk/causes.ts';
import { drawCells } from './desk/draw.ts';
import { compare, figuresOfFrame, flicker, heat, noise, valuesAt } from './desk/measure.ts';
import { Shelf } from './desk/shelf.ts';

const post = (message: FromDesk, transfer: Transferable[] = []) => self.postMessage(message, { transfer });
const shelf = new Shelf((key, opened) => post({ event: 'rows', key, opened }));

async function answerTo(request: DeskRequest): Promise<Answers[keyof Answers]> {
  switch (request.do) {
    case 'open':
      return (await shelf.open(request.key, request.ref)).opened;
    case 'draw':
      return drawCells(shelf, request.cells, request.look);
    case 'values':
      return valuesAt(shelf, request.key, request.x, request.y, request.radius);
    case 'compare':
      return compare(shelf, request.a, request.b, request.layer, request.region);
    case 'noise':
      return noise(shelf, request.key, request.layer, request.region);
    case 'frame':
      return figuresOfFrame(shelf, request.key);
    case 'flicker':
      return flicker(shelf, request.a, request.b);
    case 'heat':
      return heat(shelf, request.key, request.ids, request.cost);
    case 'causes':
      return causes(shelf, request.key, request.beside, request.renderedWith);
  }
}

self.onmessage = ({ data }: MessageEvent<DeskRequest & { id: number }>) => {
  answerTo(data).then(
    (result) => {
      const moved = Array.isArray(result) ? result.flatMap((one) => (one && 'image' in one ? [one.image.data.buffer] : [])) : []; // prettier-ignore
      post({ id: data.id, result }, moved);
    },
    (error: Error) => post({ id: data.id, error: error.message }),
  );
};

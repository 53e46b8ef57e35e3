/** Pictures on canvases, and what is on screen as a PNG: saved, or put on the clipboard. */
import { saveFile } from '../remote/save-file.ts';

const TYPE = 'image/png';

/** Puts a picture on a canvas of its size. A canvas that has the size already is not cleared before. */
export function show(image: ImageData, canvas: HTMLCanvasElement): void {
  if (canvas.width !== image.width || canvas.height !== image.height) {
    canvas.width = image.width;
    canvas.height = image.height;
  }
  canvas.getContext('2d')!.putImageData(image, 0, 0);
}

function blobOf(canvas: HTMLCanvasElement): Promise<Blob> {
  return new Promise((resolve, reject) =>
    canvas.toBlob((blob) => (blob ? resolve(blob) : reject(new Error('The browser made no picture of it.'))), TYPE),
  );
}

/**
 * Draws several canvases into one.
 *
 * @param size pixels of what is made
 * @param layers from the bottom up: where each goes, and the corners of the part of it that shows, in the same pixels
 */
export function composed(
  size: { width: number; height: number },
  layers: {
    canvas: HTMLCanvasElement;
    x: number;
    y: number;
    width: number;
    height: number;
    clip?: [number, number][];
  }[],
): HTMLCanvasElement {
  const out = document.createElement('canvas');
  out.width = Math.max(1, Math.round(size.width));
  out.height = Math.max(1, Math.round(size.height));
  const context = out.getContext('2d')!;
  context.imageSmoothingEnabled = false;
  for (const { canvas, x, y, width, height, clip } of layers) {
    context.save();
    if (clip) {
      context.beginPath();
      clip.forEach(([px, py], i) => (i ? context.lineTo(px, py) : context.moveTo(px, py)));
      context.clip();
    }
    context.drawImage(canvas, x, y, width, height);
    context.restore();
  }
  return out;
}

export async function savePng(canvas: HTMLCanvasElement, name: string): Promise<void> {
  saveFile(`${name}.png`, await blobOf(canvas));
}

/** @throws DOMException where the browser does not allow it */
export async function copyPng(canvas: HTMLCanvasElement): Promise<void> {
  await navigator.clipboard.write([new ClipboardItem({ [TYPE]: blobOf(canvas) })]);
}

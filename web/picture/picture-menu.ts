/** What a right click on a picture offers, whichever station it is in. */
import type { MenuItem } from 'primevue/menuitem';
import { copyText } from '../copy-text.ts';
import { useMessages } from '../stores/messages.ts';
import { copyPng, savePng } from './snapshot.ts';

/** The pixel that was clicked, and what of it can be taken along. */
export interface PictureMenu {
  /** Null beside the picture. */
  pixel: { x: number; y: number; told: string } | null;
  /** What is on screen, as one picture. */
  snapshot(): HTMLCanvasElement;
  /** Of the file, without its extension. */
  name: string;
  /** Two pictures are on screen, parted by a wipe. */
  isWipe: boolean;
  /** Sets the region about the pixel; null takes it away. */
  setRegion(at: { x: number; y: number } | null): void;
  hasRegion: boolean;
  /** What stands at the pixel, with a way to its controls. */
  things: { name: string; show(): void }[];
  /** What else can be done there. */
  more?: MenuItem[];
}

export function pictureMenu({ pixel, snapshot, name, isWipe, setRegion, hasRegion, things, more = [] }: PictureMenu): MenuItem[] {
  const messages = useMessages();
  const what = isWipe ? 'wipe' : 'picture';
  const copy = async () => {
    try {
      await copyPng(snapshot());
      messages.done('Picture copied, with its exposure.');
    } catch {
      messages.failed('The browser did not allow copying the picture.');
    }
  };
  const save = () => savePng(snapshot(), name).catch((error: Error) => messages.failed(error.message));
  return [
    ...(pixel
      ? [
          { label: `Copy value at ${pixel.x}, ${pixel.y}`, command: () => void copyText(`${pixel.x}, ${pixel.y}: ${pixel.told}`, 'Value copied.') },
          { label: 'Region around here', command: () => setRegion(pixel) },
        ]
      : []),
    ...(hasRegion ? [{ label: 'Reset region', command: () => setRegion(null) }] : []),
    ...(things.length ? [{ separator: true }, ...things.map((one) => ({ label: `Select ${one.name}`, command: () => one.show() }))] : []),
    ...more,
    { separator: true },
    { label: `Save ${what} as PNG`, command: () => void save() },
    { label: `Copy ${what}`, command: () => void copy() },
    { label: 'Copy link to this view', command: () => void copyText(window.location.href, 'Link copied.') },
  ];
} // prettier-ignore

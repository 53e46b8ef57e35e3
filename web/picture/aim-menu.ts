/** What a right click on a surface offers for lights and cameras: one put over the point, or the chosen one turned to it. */
import type { MenuItem } from 'primevue/menuitem';
import { ref } from 'vue';
import { aimed, depthOf, withHighlight, withShadow, type SeenPoint } from '../../core/data/aim.ts';
import type { Triple } from '../../core/data/placement.ts';
import type { Transform } from '../../core/data/transform.ts';
import { NEW_LIGHTS, newLight, type NewLightKind } from '../../core/document/new-items.ts';
import type { ShotDocument } from '../../core/document/schema.ts';
import { useMessages } from '../stores/messages.ts';
import { usePending } from '../stores/pending.ts';
import { useShot } from '../stores/shot.ts';
import { useView } from '../stores/view.ts';

/** The surface that a pixel shows; null where it shows none. */
export function seenIn(values: Record<string, number> | null, document: ShotDocument): SeenPoint | null {
  if (!values || !(values.coverage > 0)) return null;
  const triple = (pass: string): Triple => ['X', 'Y', 'Z'].map((axis) => values[`${pass}.${axis}`]) as Triple;
  const { transform } = document.cameras[document.camera];
  const [point, mean] = [triple('position'), triple('normal')];
  const length = Math.hypot(...mean);
  if (!(length > 0) || !point.every(Number.isFinite)) return null;
  const eye: Triple = [transform[12], transform[13], transform[14]];
  // Towards the one who sees it, whichever way the surface was made.
  const side = Math.sign(mean.reduce((sum, n, a) => sum + n * (eye[a] - point[a]), 0)) || 1;
  return { point, eye, normal: mean.map((n) => (side * n) / length) as Triple };
}

/** The point whose shadow is to be laid somewhere, once it was clicked. */
const caster = ref<Triple | null>(null);

/** @param pixel of the frame that was clicked */
export function aimMenu(seen: SeenPoint | null, pixel: { x: number; y: number } | null): MenuItem[] {
  const shot = useShot();
  const view = useView();
  const pending = usePending();
  const { document } = shot.state!;
  if (!seen) return [];

  const add = async (kind: NewLightKind) => {
    const { pointer, item } = newLight(document, kind, seen);
    if (await shot.addItem(pointer, item)) view.showDial(pointer);
  };
  const [, part, id] = (view.item ?? '').split('/');
  const item = part === 'lights' ? document.lights[id] : part === 'cameras' ? document.cameras[id] : undefined;
  const isPlaced = item !== undefined && !('kind' in item && item.kind === 'mesh');
  const pointer = `/${part}/${id}/transform`;
  const isFar = item !== undefined && 'kind' in item && item.kind === 'distant';
  const name = item?.name || id;
  /** Sets where it stands now to what `turn` makes of it. */
  const turn = (make: (now: Transform) => Transform) => () => {
    try {
      pending.put(document, pointer, make((pending.scene[pointer] ?? item!.transform) as Transform));
      view.showDial(`/${part}/${id}`);
      caster.value = null;
    } catch (error) {
      useMessages().failed(`${name}: ${(error as Error).message}.`);
    }
  };
  const { point } = seen;
  const camera = `/cameras/${document.camera}`;
  const from = caster.value;
  return [
    { separator: true },
    ...(pixel ? [{ label: 'What lights this?', command: () => view.askAt(pixel.x, pixel.y) }] : []),
    ...(view.region ? [{ label: 'What lights the region?', command: () => view.askRegion() }] : []),
    { label: 'Add light here', items: NEW_LIGHTS.filter((kind) => kind !== 'distant').map((kind) => ({ label: `${kind[0].toUpperCase()}${kind.slice(1)}`, command: () => void add(kind) })) },
    ...(isPlaced && !isFar ? [{ label: `Aim ${name} here`, command: turn((now) => aimed(now, point)) }] : []),
    ...(isPlaced && part === 'lights'
      ? [
          { label: `Highlight of ${name} here`, command: turn((now) => withHighlight(now, isFar, seen)) },
          ...(from
            ? [{ label: `Shadow by ${name} falls here`, command: turn((now) => withShadow(now, isFar, from, point)) }]
            : []),
          { label: `Cast a shadow of this point by ${name} …`, command: () => { caster.value = point; useMessages().done('Now right-click where its shadow should fall.'); } },
        ]
      : []),
    {
      label: 'Focus here',
      command: () => {
        pending.put(document, `${camera}/focusDistance`, Math.max(1e-4, depthOf(document.cameras[document.camera].transform, point)));
        view.showDial(`${camera}/focusDistance`);
      },
    },
  ];
} // prettier-ignore

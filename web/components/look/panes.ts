/** What stands where on Look's screen, by its mode: one picture, two over each other, several beside each other, all passes. */
import { computed, type Ref } from 'vue';
import type { Cell } from '../../picture/desk-messages.ts';
import { plainCell } from '../../picture/render-source.ts';
import { useLayerShares } from '../../stores/layer-shares.ts';
import { useLook, type LookSource } from '../../stores/look.ts';
import type { Box, Size } from '../../viewer/frame-place.ts';
import { halves, tiled } from '../../viewer/tiling.ts';
import type { useViewport } from '../../viewer/viewport.ts';

/** A picture and the part of the screen it is in. */
export interface Pane extends Box {
  source: LookSource;
  layer: string;
  label: string;
  against: Cell['against'];
}

/** @param frame of the picture that is shown, pixels; the others are grown to lie over it. @param aspect of its pixels */
export function usePanes(
  viewport: ReturnType<typeof useViewport>,
  frame: Readonly<Ref<Size>>,
  aspect: Readonly<Ref<number>>,
) {
  const look = useLook();
  const shares = useLayerShares();

  /** What stands where on the screen. */
  const boxes = computed<Pane[]>(() => {
    const { shown, shownLayer, mode } = look;
    if (!shown || !shownLayer) return [];
    const whole = viewport.whole.value;
    const box = (source: LookSource, place: Box, layer = shownLayer.name): Pane => ({ source, layer, ...place, label: source.label, against: null }); // prettier-ignore
    const [b] = look.against;
    if (mode === 'passes') {
      const all = look.layers.filter((one) => one.look === 'light');
      return tiles(all.length).map((place, i) => ({ ...box(shown, place, all[i].name), label: [look.layerTitle(all[i].name), shares.tellShort(all[i].name)].filter(Boolean).join(', ') })); // prettier-ignore
    }
    if (!b || mode === 'one') return [box(shown, whole)];
    if (mode === 'difference') {
      const { kind, times } = look.difference;
      return [{ ...box(shown, whole), against: { key: b.key, kind, times }, label: `${b.label} less ${shown.label}` }];
    }
    if (mode === 'blink') return [box(look.blinksB ? b : shown, whole)];
    if (mode === 'wipe') return [box(shown, whole), box(b, whole)];
    const list = mode === 'side' ? [shown, b] : [shown, ...look.against];
    const places = mode === 'side' ? halves(viewport.size.value) : tiles(list.length);
    return list.map((source, i) => box(source, places[i]));
  });

  function tiles(count: number): Box[] {
    return tiled(count, viewport.size.value, (frame.value.width * aspect.value) / frame.value.height);
  }

  /** By how much a picture of another size grows to lie over the one that is shown. */
  function growth(source: LookSource): number {
    const w = look.opened.get(source.key)?.displayWindow;
    return w ? frame.value.width / (w.maxX - w.minX + 1) : 1;
  }

  function cellOf(box: Pane): Cell {
    const { scale, x, y } = viewport.placeIn(box);
    const screen = {
      width: box.width,
      height: box.height,
      scale: scale * growth(box.source),
      aspect: aspect.value,
      x: box.width / 2 - x * scale * aspect.value,
      y: box.height / 2 - y * scale,
    };
    return {
      ...plainCell(box.source.key, box.layer, screen),
      against: box.against,
      balance: box.layer === look.beautyName ? look.balance : {},
      space: box.source.set?.reading.space ?? null,
      bakedExposure: box.source.set?.reading.bakedExposure ?? 0,
      mask: box.source.key === look.shown?.key && look.mode !== 'passes' ? look.mask : null,
      isNormalised: look.isNormalised,
    };
  }

  return { boxes, growth, cellOf };
}

/**
 * The part of a screen that a frame is seen in: its size as the window changes, where the frame stands in it, and
 * what wheel and drag do to that. Both stations look at their pictures through it.
 *
 * const viewport = useViewport(element, frame, ref(null));
 * viewport.zoom(2);                                       // about the middle
 * viewport.screen({ x: 0, y: 0, width: 16, height: 9 });  // where that part of the frame is, in screen pixels
 */
import { computed, onBeforeUnmount, onMounted, ref, type Ref } from 'vue';
import { fittedPlace, toFrame, toScreen, zoomed, type Box, type Place, type Point, type Size } from './frame-place.ts';

type Readable<T> = Readonly<Ref<T>>;

/**
 * @param place where the frame stands; null shows all of it, whatever room there is
 * @param aspect width of a pixel over its height
 */
export function useViewport(
  element: Readable<HTMLElement | null>,
  frame: Readable<Size>,
  place: Ref<Place | null>,
  aspect: Readable<number> = ref(1),
) {
  const size = ref<Size>({ width: 1, height: 1 });
  const whole = computed<Box>(() => ({ x: 0, y: 0, ...size.value }));
  const placeIn = (box: Size): Place => place.value ?? fittedPlace(box, frame.value, aspect.value);

  const observer = new ResizeObserver(([entry]) => {
    const { width, height } = entry.contentRect;
    // Hidden for now, as behind a contact sheet.
    if (width > 0) size.value = { width: Math.floor(width), height: Math.floor(height) };
  });
  onMounted(() => observer.observe(element.value!));
  onBeforeUnmount(() => observer.disconnect());

  /** Screen pixels from the viewport's corner. */
  function pointOf(event: MouseEvent): Point {
    const bounds = element.value!.getBoundingClientRect();
    return { x: event.clientX - bounds.left, y: event.clientY - bounds.top };
  }

  return {
    size,
    whole,
    placeIn,
    pointOf,
    frameAt: (event: MouseEvent, box: Box = whole.value) => toFrame(pointOf(event), box, placeIn(box), aspect.value),
    screen: (rect: Box, box: Box = whole.value) => toScreen(rect, box, placeIn(box), aspect.value),
    fit: () => (place.value = null),
    /** @param at frame's place that stays where it is */
    zoom: (factor: number, box: Box = whole.value, at?: Point) => (place.value = zoomed(placeIn(box), factor, at)),
    /** By shares of the viewport. */
    pan(dx: number, dy: number, box: Box = whole.value): void {
      const { scale, x, y } = placeIn(box);
      place.value = { scale, x: x + (dx * size.value.width) / scale, y: y + (dy * size.value.height) / scale };
    },
  };
}

/** Factor of one turn of the wheel. */
export const wheelFactor = (event: WheelEvent): number => 2 ** (-event.deltaY / 400);

/** A rectangle between two places of the frame, from whichever corner it was drawn. */
export function between(a: Point, b: Point): Box {
  return { x: Math.min(a.x, b.x), y: Math.min(a.y, b.y), width: Math.abs(a.x - b.x), height: Math.abs(a.y - b.y) };
}

export const placed = (box: Box) => ({
  left: `${box.x}px`,
  top: `${box.y}px`,
  width: `${box.width}px`,
  height: `${box.height}px`,
});

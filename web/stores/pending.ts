/** Values that a person set and neither tried nor kept yet: they stay when another panel is opened, and over a reload. */
import { defineStore } from 'pinia';
import { computed, ref, watch } from 'vue';
import { partOf, withPart, type Triple } from '../../core/data/placement.ts';
import type { Transform } from '../../core/data/transform.ts';
import type { Control } from '../../core/document/controls.ts';
import type { DialValue } from '../../core/document/dials.ts';
import { valueAt } from '../../core/document/patch.ts';
import type { SheetName, ShotDocument } from '../../core/document/schema.ts';
import type { ControlValues } from '../../core/document/set-values.ts';

/** Where a shot's values are kept in this browser. */
const placeOf = (code: string): string => `dusting.pending.${code}`;

interface Kept {
  sheets: Record<SheetName, Record<string, DialValue>>;
  scene: ControlValues;
}

export const usePending = defineStore('pending', () => {
  /** Of dials, by sheet and pointer. */
  const sheets = ref<Record<SheetName, Record<string, DialValue>>>({ preview: {}, final: {} });
  /** Of the scene, by pointer. */
  const scene = ref<ControlValues>({});
  let code: string | null = null;

  /** What the preview would be rendered with. */
  const ofPreview = computed<ControlValues>(() => ({ ...scene.value, ...sheets.value.preview }));

  /** Takes up what was set in a shot and not kept when it was left. */
  function open(shot: string): void {
    code = null;
    const kept = keptOf(shot);
    sheets.value = { preview: {}, final: {}, ...kept?.sheets };
    scene.value = kept?.scene ?? {};
    code = shot;
  }

  /** Lets go of values of items that are gone. @returns how many they were */
  function fitTo(document: ShotDocument): number {
    const lost = Object.keys(scene.value).filter((pointer) => !stands(document, pointer));
    for (const pointer of lost) delete scene.value[pointer];
    return lost.length;
  }

  watch(
    [sheets, scene],
    () => {
      if (code === null) return;
      const kept: Kept = { sheets: sheets.value, scene: scene.value };
      const isEmpty = [kept.scene, kept.sheets.preview, kept.sheets.final].every((one) => Object.keys(one).length === 0);
      if (isEmpty) localStorage.removeItem(placeOf(code));
      else localStorage.setItem(placeOf(code), JSON.stringify(kept));
    },
    { deep: true, flush: 'sync' },
  ); // prettier-ignore

  /** What a control of the scene stands at, the value that is set before the stored one. */
  function shown({ pointer, part, value }: Control): unknown {
    if (!(pointer in scene.value)) return value;
    const set = scene.value[pointer];
    return part ? partOf(set as Transform, part) : set;
  }

  /** Sets a control of the scene; one that stands as stored is set no longer. */
  function set(document: ShotDocument, { pointer, part }: Control, value: unknown): void {
    const stored = valueAt(document, pointer);
    const now = (scene.value[pointer] ?? stored) as Transform;
    put(document, pointer, part ? withPart(stored as Transform, now, part, value as number | Triple) : value);
  }

  function put(document: ShotDocument, pointer: string, value: unknown): void {
    if (JSON.stringify(value) === JSON.stringify(valueAt(document, pointer))) delete scene.value[pointer];
    else scene.value[pointer] = value;
  }

  const isSet = (control: Control): boolean => JSON.stringify(shown(control)) !== JSON.stringify(control.value);

  return { sheets, scene, ofPreview, open, fitTo, shown, set, put, isSet };
});

/** Null where nothing is kept, or what is cannot be read. */
function keptOf(shot: string): Kept | null {
  try {
    return JSON.parse(localStorage.getItem(placeOf(shot)) ?? 'null') as Kept | null;
  } catch {
    return null;
  }
}

function stands(document: ShotDocument, pointer: string): boolean {
  try {
    valueAt(document, pointer);
    return true;
  } catch {
    return false;
  }
}

/**
 * All keys of the page, once: a key means the same in every station, or nothing. Stations say what each does there;
 * the handler, the list of keys and the command palette read the same table.
 */

export const KEY_GROUPS = ['Picture', 'Passes and channels', 'Findings and trials', 'Comparing', 'Sequence', 'Page', 'Shot'] as const; // prettier-ignore

interface Meaning {
  /** As `KeyboardEvent.key`, with modifiers before it. */
  keys: string[];
  shown: string;
  does: string;
  group: (typeof KEY_GROUPS)[number];
  /** It is no key of a text field, and works in one. */
  isWhileTyping?: boolean;
}

export const MEANINGS = {
  boost: { keys: ['l'], shown: 'L', does: 'Shadow boost: two stops up, gamma 1.25', group: 'Picture' },
  darker: { keys: ['['], shown: '[', does: 'Half a stop darker', group: 'Picture' },
  brighter: { keys: [']'], shown: ']', does: 'Half a stop brighter', group: 'Picture' },
  plain: { keys: ['0'], shown: '0', does: 'Exposure and gamma as rendered', group: 'Picture' },
  mask: { keys: ['m'], shown: 'M', does: 'Mask of the finding, or of the object whose controls are open', group: 'Picture' },
  region: { keys: ['g'], shown: 'G', does: 'Draw a region', group: 'Picture' },
  noRegion: { keys: ['Shift+g'], shown: 'Shift G', does: 'Reset the region', group: 'Picture' },
  fit: { keys: ['f'], shown: 'F', does: 'Fit the picture', group: 'Picture' },
  actual: { keys: ['1'], shown: '1', does: 'One picture pixel per screen pixel', group: 'Picture' },
  nearer: { keys: ['+', '=', 'Shift++'], shown: '+', does: 'Zoom in', group: 'Picture' },
  further: { keys: ['-'], shown: '−', does: 'Zoom out', group: 'Picture' },
  panLeft: { keys: ['Shift+ArrowLeft'], shown: 'Shift ←→↑↓', does: 'Pan', group: 'Picture' },
  panRight: { keys: ['Shift+ArrowRight'], shown: '', does: '', group: 'Picture' },
  panUp: { keys: ['Shift+ArrowUp'], shown: '', does: '', group: 'Picture' },
  panDown: { keys: ['Shift+ArrowDown'], shown: '', does: '', group: 'Picture' },
  guides: { keys: ['u'], shown: 'U', does: 'Guides: thirds, centre, safe areas', group: 'Picture' },
  live: { keys: ['e'], shown: 'E', does: 'Live look: render the region in this browser while values change', group: 'Picture' },
  light: { keys: ['Shift+l'], shown: 'Shift L', does: 'What lights the point under the pointer, and what is in between', group: 'Picture' },
  stage: { keys: ['z'], shown: 'Z', does: 'Stage: the scene from outside, beside the picture', group: 'Picture' },
  nextPass: { keys: ['p', 'ArrowDown'], shown: 'P', does: 'Next pass', group: 'Passes and channels' },
  passBefore: { keys: ['Shift+p', 'ArrowUp'], shown: 'Shift P', does: 'Previous pass', group: 'Passes and channels' },
  beauty: { keys: ['b'], shown: 'B', does: 'Beauty', group: 'Passes and channels' },
  showAll: { keys: ['a'], shown: 'A', does: 'Show all: every pass, every check', group: 'Passes and channels' },
  normalise: { keys: ['Shift+a'], shown: 'Shift A', does: 'Each pass by its own brightest, or all at one exposure', group: 'Passes and channels' },
  large: { keys: ['Enter'], shown: 'Enter', does: 'The chosen pass large', group: 'Passes and channels' },
  channel: { keys: ['o'], shown: 'O', does: 'Next channel: red, green, blue, alpha, luminance', group: 'Passes and channels' },
  stops: { keys: ['y'], shown: 'Y', does: 'Luminance in stops', group: 'Passes and channels' },
  marks: { keys: ['x'], shown: 'X', does: 'Marks on what clips and what is below 0', group: 'Passes and channels' },
  behind: { keys: ['q'], shown: 'Q', does: 'Behind alpha: nothing, checkerboard, grey', group: 'Passes and channels' },
  hold: { keys: ['h'], shown: 'H', does: 'Hold the pixel that is read', group: 'Passes and channels' },
  next: { keys: ['j'], shown: 'J', does: 'Next in the list: finding, check, picture', group: 'Findings and trials' },
  before: { keys: ['k'], shown: 'K', does: 'Previous in the list', group: 'Findings and trials' },
  tryFirst: { keys: ['t'], shown: 'T', does: 'Try the first remedy on the region', group: 'Findings and trials' },
  nextTrial: { keys: ['.'], shown: '.', does: 'Next trial', group: 'Findings and trials' },
  trialBefore: { keys: [','], shown: ',', does: 'Previous trial', group: 'Findings and trials' },
  keep: { keys: ['Shift+k'], shown: 'Shift K', does: 'Keep the trial that is shown …', group: 'Findings and trials' },
  repair: { keys: ['Shift+r'], shown: 'Shift R', does: 'Apply the repair that is shown', group: 'Findings and trials' },
  wipe: { keys: ['w'], shown: 'W', does: 'Wipe; of a trial, flip between before and after', group: 'Comparing' },
  compare: { keys: ['c'], shown: 'C', does: 'Compare with the next picture', group: 'Comparing' },
  difference: { keys: ['d'], shown: 'D', does: 'Difference', group: 'Comparing' },
  blink: { keys: ['Shift+w'], shown: 'Shift W', does: 'Blink', group: 'Comparing' },
  side: { keys: ['Shift+d'], shown: 'Shift D', does: 'Side by side', group: 'Comparing' },
  nextFrame: { keys: ['ArrowRight'], shown: '→', does: 'Next frame', group: 'Sequence' },
  frameBefore: { keys: ['ArrowLeft'], shown: '←', does: 'Previous frame', group: 'Sequence' },
  play: { keys: [' '], shown: 'Space', does: 'Play or pause', group: 'Sequence' },
  nextPanel: { keys: ['s'], shown: 'S', does: 'Next panel', group: 'Page' },
  panelBefore: { keys: ['Shift+s'], shown: 'Shift S', does: 'Previous panel', group: 'Page' },
  panels: { keys: ['\\'], shown: '\\', does: 'Hide or show the side panels', group: 'Page' },
  fullScreen: { keys: ['Shift+f'], shown: 'Shift F', does: 'Picture full screen', group: 'Page' },
  leave: { keys: ['Escape'], shown: 'Esc', does: 'Leave: the trial, its sweep, the comparison', group: 'Page' },
  find: { keys: ['/'], shown: '/', does: 'Find', group: 'Page' },
  chain: { keys: ['i'], shown: 'I', does: 'Files as a table or as a chain', group: 'Page' },
  otherStation: { keys: ['v'], shown: 'V', does: 'Look and back', group: 'Page' },
  palette: { keys: ['Ctrl+k'], shown: 'Ctrl K', does: 'Find shots, views, controls, findings, commands', group: 'Page', isWhileTyping: true },
  help: { keys: ['?', 'Shift+?'], shown: '?', does: 'This list', group: 'Page' },
  render: { keys: ['r'], shown: 'R', does: 'Render the current version', group: 'Shot' },
  undo: { keys: ['Ctrl+z'], shown: 'Ctrl Z', does: 'Undo the last kept change', group: 'Shot' },
  redo: { keys: ['Ctrl+Shift+z', 'Ctrl+y'], shown: 'Ctrl Shift Z', does: 'Redo', group: 'Shot' },
} satisfies Record<string, Meaning>; // prettier-ignore

export type MeaningId = keyof typeof MEANINGS;

export interface Key extends Meaning {
  id: MeaningId;
  run(): void;
}

/**
 * The keys of a station, in the order of the table.
 *
 * @example
 * const keys = keysOf({ boost: () => view.toggleBoost(), fit: () => stage.fit() });
 * window.addEventListener('keydown', (event) => pressKey(event, keys));
 */
export const keysOf = (runs: Partial<Record<MeaningId, () => void>>): Key[] =>
  (Object.keys(MEANINGS) as MeaningId[]).flatMap((id) => {
    const run = runs[id];
    return run ? [{ id, ...MEANINGS[id], run }] : [];
  });

/** Elements that have arrow keys, Enter and Space of their own while they have the focus. */
const WALKED = '[role="option"], [role="listbox"], [role="row"], [role="tab"], [role="treeitem"], [role="slider"], [role="separator"], [role="combobox"], [role="menu"], [role="menuitem"], tr[tabindex]'; // prettier-ignore
const PRESSED = `${WALKED}, button, a`;
const ARROWS = new Set(['ArrowUp', 'ArrowDown', 'ArrowLeft', 'ArrowRight']);
const PRESSES = new Set(['Enter', ' ']);

/** Whether a dialog has the page, so that keys are its own. */
export const isInDialog = (): boolean => document.querySelector('[aria-modal="true"]') !== null;

/** Runs the key that an event means, unless a person is typing or a dialog has the page. @returns whether there was one */
export function pressKey(event: KeyboardEvent, table: Key[]): boolean {
  const target = event.target as HTMLElement;
  const isTyping = target.isContentEditable || /^(INPUT|TEXTAREA|SELECT)$/.test(target.tagName);
  const name = `${event.ctrlKey || event.metaKey ? 'Ctrl+' : ''}${event.shiftKey ? 'Shift+' : ''}${event.key.length === 1 ? event.key.toLowerCase() : event.key}`;
  if (event.altKey || event.defaultPrevented || isInDialog()) return false;
  const own = ARROWS.has(name) ? WALKED : PRESSES.has(name) ? PRESSED : null;
  if (own && target.closest?.(own)) return false;
  const key = table.find((k) => k.keys.includes(name));
  if (!key || (isTyping && !key.isWhileTyping)) return false;
  event.preventDefault();
  key.run();
  return true;
}

/** Every key of the workspace, once: the handler and the page that lists them read the same table. */
export interface Key {
  /** As `KeyboardEvent.key`, with modifiers before it. */
  keys: string[];
  shown: string;
  does: string;
  run(): void;
}

/** Runs the key that an event means, unless a person is typing or a dialog has the page. @returns whether there was one */
export function pressKey(event: KeyboardEvent, table: Key[]): boolean {
  const target = event.target as HTMLElement;
  const isTyping = target.isContentEditable || /^(INPUT|TEXTAREA|SELECT)$/.test(target.tagName);
  if (isTyping || event.altKey || document.querySelector('[aria-modal="true"]')) return false;
  const name = `${event.ctrlKey || event.metaKey ? 'Ctrl+' : ''}${event.shiftKey ? 'Shift+' : ''}${event.key.length === 1 ? event.key.toLowerCase() : event.key}`;
  const key = table.find((k) => k.keys.includes(name));
  if (!key) return false;
  event.preventDefault();
  key.run();
  return true;
}

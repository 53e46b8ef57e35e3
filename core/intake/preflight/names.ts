/** Names that nobody chose. */
import type { Profile } from './profile.ts';

const compiled = new WeakMap<Profile, RegExp[]>();

export function isPlaceholder(name: string, profile: Profile): boolean {
  let patterns = compiled.get(profile);
  if (!patterns)
    compiled.set(profile, (patterns = profile.placeholderNames.map((pattern) => new RegExp(pattern, 'i'))));
  return name.trim() === '' || patterns.some((pattern) => pattern.test(name));
}

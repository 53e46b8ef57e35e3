/** Default names. */
import { compilePattern, type Pattern } from '../../data/pattern.ts';
import type { Profile } from './profile.ts';

const compiled = new WeakMap<Profile, Pattern[]>();

export function isPlaceholder(name: string, profile: Profile): boolean {
  let patterns = compiled.get(profile);
  if (!patterns)
    compiled.set(
      profile,
      (patterns = profile.placeholderNames.map((pattern) => compilePattern(pattern, { ignoreCase: true }))),
    );
  return name.trim() === '' || patterns.some((pattern) => pattern.test(name));
}
